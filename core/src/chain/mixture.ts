/**
 * What arrives at a place in the chain, by what it comes from: sources at their typical level, entry noises relative to
 * their level there, and the noise of every node on the way. Amplitudes have a sign; a sine at 0 dB in the unit of the
 * place has amplitude 1. The lists run side by side, one entry a way.
 */
export interface Mixture {
  readonly emitters: readonly number[]
  readonly amplitudes: readonly number[]
  /** Seconds since the sound left its source. */
  readonly delaysS: readonly number[]
  /** The low-cuts passed, by number in the table of the graph. */
  readonly filters: readonly number[]
}

export const emptyMixture: Mixture = { emitters: [], amplitudes: [], delaysS: [], filters: [] }

/** Delays closer than this count as equal: a seventh of a sample at 48 kHz. */
export const sameDelayS = 3e-6

/** Merges several mixtures. Parts from one emitter with one delay add with their signs. */
export function merged(mixtures: readonly Mixture[]): Mixture {
  if (mixtures.length === 1) return mixtures[0]!
  const emitters: number[] = []
  const amplitudes: number[] = []
  const delaysS: number[] = []
  const filters: number[] = []
  const first = new Map<number, number>()
  for (const mixture of mixtures)
    for (let way = 0; way < mixture.emitters.length; way++) {
      const emitter = mixture.emitters[way]!
      const delayS = mixture.delaysS[way]!
      const filter = mixture.filters[way]!
      let found = first.get(emitter)
      // ways of one emitter are few: they are looked through from the first on
      while (
        found !== undefined &&
        found < emitters.length &&
        !(
          emitters[found] === emitter &&
          filters[found] === filter &&
          Math.abs(delaysS[found]! - delayS) < sameDelayS
        )
      )
        found++
      if (found !== undefined && found < emitters.length) amplitudes[found]! += mixture.amplitudes[way]!
      else {
        if (!first.has(emitter)) first.set(emitter, emitters.length)
        emitters.push(emitter)
        amplitudes.push(mixture.amplitudes[way]!)
        delaysS.push(delayS)
        filters.push(filter)
      }
    }
  return { emitters, amplitudes, delaysS, filters }
}

/** A noise that a node adds: its emitter, and its amplitude at the output of the node. */
export interface Added {
  emitter: number
  amplitude: number
}

/** A mixture behind a node: amplified, later, through its low-cut, with the noise of the node. */
export function passedOn(
  before: Mixture,
  factor: number,
  {
    delayS,
    filterAfter,
    added,
  }: { delayS: number; filterAfter?: (filter: number) => number; added: readonly Added[] },
): Mixture {
  const length = before.emitters.length
  if (factor === 1 && delayS === 0 && !filterAfter && added.length === 0) return before
  const amplitudes = new Array<number>(length)
  for (let way = 0; way < length; way++) amplitudes[way] = before.amplitudes[way]! * factor
  if (delayS === 0 && !filterAfter && added.length === 0) return { ...before, amplitudes }
  const emitters = before.emitters.slice()
  const delaysS = delayS === 0 ? before.delaysS.slice() : before.delaysS.map((each) => each + delayS)
  const filters = filterAfter ? before.filters.map(filterAfter) : before.filters.slice()
  for (const { emitter, amplitude } of added) {
    emitters.push(emitter)
    amplitudes.push(amplitude)
    delaysS.push(0)
    filters.push(0)
  }
  return { emitters, amplitudes, delaysS, filters }
}
