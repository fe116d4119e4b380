import { aWeightingDb } from '../units'
import type { Facts } from './facts'
import { type PluggedLink, wayTo } from './link'
import type { Find } from './link-finding'

/** Magnetic and electric fields pick up about so much, volts a metre; balanced runs a thousandth of it. */
const quietFieldVoltsPerM = 1e-6
const nearMainsVoltsPerM = 10e-6
const nearMotorsVoltsPerM = 100e-6
const humHz = 50
/** An unbalanced run of this length is worth more than a note. */
const longRunM = 3

const humDbu = (picked: number): number => 20 * Math.log10(picked / Math.sqrt(0.6))

/** Hum that an unbalanced run picks up in a quiet place, A-weighted: an estimate by its length in metres. */
export const humDbuA = (lengthM: number): number =>
  humDbu(quietFieldVoltsPerM * lengthM) + aWeightingDb(humHz)

/** Length of the pieces between the output and an input, metres. */
export const runLengthM = (link: PluggedLink, input: number): number =>
  wayTo(link, input).reduce((sum, index) => sum + (link.pieces[index]!.lengthM ?? 0), 0)

/** An unbalanced run with the hum it picks up. */
export function findHum(link: PluggedLink, facts: Facts, find: Find): void {
  const lengthM = runLengthM(link, 0)
  const open = facts.balanced.filter(({ input, balanced }) => !balanced && !facts.streams.includes(input))
  if (open.length && lengthM > 0) {
    const hum = (field: number) =>
      `${humDbu(field * lengthM)
        .toFixed(0)
        .replace('-', '\u2212')} dBu`
    find(
      lengthM > longRunM ? 'degraded' : 'note',
      'unbalanced',
      link.inputs[open[0]!.input]!.name,
      `${lengthM} m run unbalanced.`,
      `An estimate: ${hum(quietFieldVoltsPerM)} of hum in a quiet place, ${hum(nearMainsVoltsPerM)} near mains, ${hum(nearMotorsVoltsPerM)} near dimmers and motors; balanced 60 dB less.`,
      lengthM > longRunM
        ? 'Keep it short, or use a transformer at its end. Never lift a protective earth.'
        : 'Keep it as short as it is.',
    )
  }
}
