import { expect } from 'vitest'
import { type Netlist, solve } from '../circuit'
import { dense } from './dense-circuit'

/** Both solutions agree across every part. Where a whole island floats, only that has a meaning. */
export function expectAgrees(
  netlist: Netlist,
  frequencyHz: number,
  signal: string | undefined,
  within = 1e-5,
): void {
  const reference = dense(netlist, frequencyHz, signal)
  const solution = solve(netlist, frequencyHz, signal)
  const theirs = (name: string) => reference.get(name) ?? [0, 0]
  const across = netlist.flatMap((part) => {
    // at DC a capacitor may lie between two islands that float, each where its leakage leaves it
    if ('first' in part || (part.kind === 'capacitor' && frequencyHz === 0)) return []
    const [one, other] = [theirs(part.from), theirs(part.to)]
    const [a, b] = [solution.volts(part.from), solution.volts(part.to)]
    return [{ re: one[0] - other[0], im: one[1] - other[1], mineRe: a.re - b.re, mineIm: a.im - b.im }]
  })
  const scale = Math.max(1e-3, ...across.map(({ re, im }) => Math.hypot(re, im)))
  for (const { re, im, mineRe, mineIm } of across)
    expect(Math.hypot(mineRe - re, mineIm - im) / scale).toBeLessThan(within)
}
