import { acrossInput, decibelsOf, type Reach } from './facts-of-sound'
import { dcFactsOf, type NeedDc } from './facts-of-dc'
import { isBalanced, type ThermalOhm, thermalOhmOf } from './impedance'
import { type PluggedLink, signalsOfOutput, type Tap, tapsOf, wayTo } from './link'
import { outputNode, terminalNode } from './link-parts'
import { contactsOf } from '../model'
import { magnitude, minus, networkAt, type Solution } from './solve'
import { variantsOf } from './variants'

/** Data of a link that levels need: how much of a signal reaches a channel, its polarity, and the noise added. */
export interface Gain extends Pick<Reach, 'input' | 'channel' | 'signal' | 'db' | 'sign'> {
  /** Share of the gain at each piece on the way, dB; the first carries the loss in the source, all together are `db`. */
  alongDb: number[]
  thermalOhm: ThermalOhm
  balanced: boolean
}

/** A link as levels see it. */
export interface GainsOfLink {
  gains: Gain[]
  /** Things that need power over the link, and what they get. */
  needs: NeedDc[]
}

/** Gains at 1 kHz, of the first way of touching, for the inputs asked about. Undefined when the plugs do not go together. */
export function gainsOf(link: PluggedLink): GainsOfLink | undefined {
  const found = variantsOf(link)
  if ('misfit' in found) return undefined
  const { netlist } = found.variants[0]!
  const middle = networkAt(netlist, 1000)
  const sound = signalsOfOutput(link).map((signal) => ({ signal, solution: middle.driven(signal) }))
  const gains = link.inputs.slice(0, link.asked).flatMap((each, input) =>
    each.channels.flatMap((channel) => {
      const thermalOhm = thermalOhmOf(netlist, middle, input, channel)
      const balanced = isBalanced(middle, input, channel)
      return sound.map(({ signal, solution }): Gain => {
        const volts = acrossInput(solution, input, channel)
        const db = decibelsOf(magnitude(volts))
        return {
          input,
          channel: channel.id,
          signal,
          db,
          sign: volts.re < 0 ? -1 : 1,
          alongDb: alongPieces(link, input, solution, db),
          thermalOhm,
          balanced,
        }
      })
    }),
  )
  const needs = link.output.needs?.length ? dcFactsOf(link, netlist).needs : []
  return { gains, needs }
}

/** Levels at the joints between the pieces on the way to an input, each against the one before. */
function alongPieces(link: PluggedLink, input: number, solution: Solution, wholeDb: number): number[] {
  const taps = tapsOf(link)
  const way = wayTo(link, input)
  const ends: Tap[] = [...way.slice(1).map((piece) => taps.pieces[piece]!)]
  const along: number[] = []
  let before = 0
  for (const end of ends) {
    const level = Math.max(decibelsOf(plugVolts(link, end, solution)), -200)
    along.push(level - before)
    before = level
  }
  return [...along, wholeDb - before]
}

/** The largest voltage between any two contacts where something is plugged in. */
function plugVolts(link: PluggedLink, end: Tap, solution: Solution): number {
  const shape = end === 'output' ? link.output.shape : link.pieces[end.piece]!.ends[end.end]!.shape
  const volts = contactsOf[shape].map((contact) =>
    solution.volts(
      end === 'output' ? outputNode(contact) : terminalNode(end.piece, { end: end.end, contact }),
    ),
  )
  let most = 0
  for (const [index, one] of volts.entries())
    for (const other of volts.slice(index + 1)) most = Math.max(most, magnitude(minus(one, other)))
  return most
}
