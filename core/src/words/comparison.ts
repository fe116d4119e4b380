import type { Cause } from '../advice'
import type { Comparison } from '../measure'

const hints: Record<Comparison['figure'], { high: string; low: string }> = {
  'loudest peak': {
    high: 'louder than the brief says, or nearer',
    low: 'quieter than the brief says, farther away, or a gain set lower',
  },
  'typical speech': {
    high: 'the voice, the distance or a gain is higher than planned',
    low: 'the voice, the distance or a gain is lower than planned',
  },
  'noise in the pauses': {
    high: 'the place is louder, or a box is noisier than its figures',
    low: 'the place is quieter than the brief says',
  },
  'speech-to-noise': {
    high: 'better than planned',
    low: 'worse than planned: look at the noise first',
  },
}

/** Likely cause of a difference between plan and clip; empty within the natural spread of voices and rooms. */
export function comparisonHint({ figure, off, covered }: Comparison): string {
  if (covered)
    return covered.by === undefined
      ? 'no pause was found to measure it in'
      : `${covered.by} plays on in the pauses: noise behind it cannot be measured`
  return off ? hints[figure][off] : ''
}

/**
 * An assumption that may be off, and what it would have to be.
 *
 * @param distance writes metres as the person reads them
 */
export function explanationWords(cause: Cause, distance: (metres: number) => string): string {
  switch (cause.kind) {
    case 'distance':
      return `Microphone ${cause.distanceM < cause.plannedM ? 'nearer' : 'farther'}: ${distance(cause.distanceM)} from the ${cause.source}, not ${distance(cause.plannedM)}`
    case 'voice':
      return `The ${cause.source} ${Math.abs(cause.byDb).toFixed(1)} dB ${cause.byDb > 0 ? 'louder' : 'quieter'} than the brief says`
    case 'place noise':
      return `Noise of the place (${cause.noise}) at ${cause.levelDba} dB(A), not at ${cause.plannedDba}`
    case 'control':
      return `${cause.controlName} of ${cause.partName} at ${cause.positionName}, not at ${cause.plannedName}`
    case 'box noise':
      return `${cause.partName} hisses ${Math.abs(cause.byDb).toFixed(1)} dB ${cause.byDb > 0 ? 'more' : 'less'} than its figures say`
  }
}
