import type { Find } from '../findings'
import { aWeightingDb } from '../units'
import type { Facts } from './facts'
import { type PluggedLink, wayTo } from './link'

/** Hum that fields induce in an unbalanced run, V per metre (estimates); a balanced run picks up a thousandth. */
const quietFieldVoltsPerM = 1e-6
const nearMainsVoltsPerM = 10e-6
const nearMotorsVoltsPerM = 100e-6
const humHz = 50
/** An unbalanced run longer than this is more than a note, m. */
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
  const [open] = facts.balanced.filter(({ input, balanced }) => !balanced && !facts.streams.includes(input))
  if (!open || lengthM === 0) return
  const long = lengthM > longRunM
  find(
    long ? 'degraded' : 'note',
    'unbalanced',
    { where: link.inputs[open.input]!.name },
    {
      lengthM,
      long,
      quietDbu: humDbu(quietFieldVoltsPerM * lengthM),
      nearMainsDbu: humDbu(nearMainsVoltsPerM * lengthM),
      nearMotorsDbu: humDbu(nearMotorsVoltsPerM * lengthM),
    },
  )
}
