import type { Comparison } from '../measure'

const hints: Record<Comparison['figure'], { high: string; low: string }> = {
  'loudest peak': {
    high: 'louder than the brief says, or nearer',
    low: 'quieter than the brief says, farther off, or a box turned lower',
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

/** What a difference between plan and clip hints at; empty when voices and rooms differ as much by themselves. */
export const comparisonHint = ({ figure, off }: Comparison): string => (off ? hints[figure][off] : '')
