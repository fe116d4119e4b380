import type { Rung } from '../model'

/**
 * A row of resistances walked from source to load. Gains in dB of each group of rungs, as they are loaded by all
 * that follows and fed by all that precedes, add up to the gain from the source's open voltage to the load.
 */
export interface LoadedLadder {
  /** One gain per group, in order. The first carries the loss in the source's own impedance. */
  gainsDb: number[]
  /** What the load sees looking back: the Thevenin impedance, ohm. */
  sourceOhm: number
}

const parallel = (one: number, other: number): number =>
  one === Infinity ? other : other === Infinity ? one : (one * other) / (one + other)

/** What a source sees looking into groups of rungs that end in a load, ohm. */
export function inputOhm(groups: readonly (readonly Rung[])[], loadOhm: number): number {
  return groups
    .flat()
    .reduceRight(
      (ohm, rung) => ('seriesOhm' in rung ? ohm + rung.seriesOhm : parallel(ohm, rung.shuntOhm)),
      loadOhm,
    )
}

/** Solves the ladder by Thevenin from the left and input impedance from the right. */
export function loadedLadder(
  sourceOhm: number,
  groups: readonly (readonly Rung[])[],
  loadOhm: number,
): LoadedLadder {
  const gainsDb: number[] = []
  let backOhm = sourceOhm
  let before = 1
  groups.forEach((_, index) => {
    const rest = groups.slice(index)
    const entry = inputOhm(rest, loadOhm)
    // voltage at the entry of this group, by division between what lies behind and what lies ahead
    if (index === 0) before = divide(sourceOhm, entry)
    let at = before
    groups[index]!.forEach((rung, step) => {
      const ahead = inputOhm([groups[index]!.slice(step + 1), ...rest.slice(1)], loadOhm)
      if ('seriesOhm' in rung) {
        at *= divide(rung.seriesOhm, ahead)
        backOhm += rung.seriesOhm
      } else backOhm = parallel(backOhm, rung.shuntOhm)
    })
    const own = index === 0 ? at : at / before
    gainsDb.push(20 * Math.log10(own))
    before = at
  })
  if (groups.length === 0) gainsDb.push(20 * Math.log10(divide(sourceOhm, loadOhm)))
  return { gainsDb, sourceOhm: backOhm }
}

/** Share of a voltage that arrives at `aheadOhm` through `behindOhm`. */
const divide = (behindOhm: number, aheadOhm: number): number =>
  behindOhm === 0 || aheadOhm === Infinity ? 1 : aheadOhm / (behindOhm + aheadOhm)
