import type { CircuitFigures, Find } from '../findings'
import type { Facts } from './facts'
import { leakageDb } from './facts-of-sound'
import type { PluggedLink } from './link'

/** A load below this share of the leg's source impedance is a short circuit; below all of it, a heavy load. */
const shortedShare = 0.02
const overloadedShare = 1
/** Gain above which an unused leg costs no level, dB. */
const halfLevelDb = -5

/** Findings about the output: short circuits, heavy loads, an unused leg. */
export function findOnOutput(link: PluggedLink, facts: Facts, find: Find): void {
  const output = link.output.name
  for (const { loadOhm, sourceOhm, contact, leg } of facts.legs) {
    const share = loadOhm / sourceOhm
    const subject = { where: output, contact }
    if (share < shortedShare) find('harmful', 'shorted output', subject, { output, leg, loadOhm, sourceOhm })
    else if (share < overloadedShare)
      find('degraded', 'overloaded output', subject, {
        output,
        lossDb: 20 * Math.log10(share / (1 + share)),
        loadOhm,
        sourceOhm,
        shared: link.inputs.length > 1,
        heaviest: heaviest(link, facts),
      })
  }

  for (const { signal } of link.output.channels) {
    const cold = facts.legs.find((leg) => leg.signal === signal && leg.leg === 'cold')
    const [reach] = facts.reaches.filter((each) => each.signal === signal && each.db > leakageDb)
    if (cold && reach && cold.loadOhm / cold.sourceOhm < shortedShare && reach.db < halfLevelDb)
      find('note', 'half level', { where: output }, { signal, lossDb: reach.db })
  }
}

/** The heaviest of several loads on one output. */
function heaviest(link: PluggedLink, { loads }: Facts): CircuitFigures['overloaded output']['heaviest'] {
  if (link.inputs.length < 2) return undefined
  const { input, share } = loads.reduce((one, other) => (other.share > one.share ? other : one))
  return { name: link.inputs[input]!.name, share }
}
