import type { Facts } from './facts'
import { silenceDb } from './facts-of-sound'
import type { PluggedLink } from './link'
import { decibels, type Find } from './link-finding'

/** A load under this share of what stands behind a leg is a short; under once, a heavy load. */
const shortedShare = 0.02
const overloadedShare = 1
/** Less is lost when a leg that drives nothing costs no level. */
const halfLevelDb = -5

/** What the link does to the output: shorts, heavy loads, a leg that drives nothing. */
export function findOnOutput(link: PluggedLink, facts: Facts, find: Find): void {
  const output = link.output.name
  for (const leg of facts.legs) {
    const share = leg.loadOhm / leg.sourceOhm
    const where = `${output}, contact ${leg.contact}`
    if (share < shortedShare)
      find(
        'harmful',
        'shorted output',
        where,
        `The ${leg.leg} leg of ${output} is shorted.`,
        `It works into ${leg.loadOhm.toFixed(1)} ohm with ${leg.sourceOhm} ohm behind it.`,
        'Use a lead that leaves this leg open, or a transformer.',
      )
    else if (share < overloadedShare)
      find(
        'degraded',
        'overloaded output',
        where,
        `${output} is loaded down by ${decibels(20 * Math.log10(share / (1 + share)))}.`,
        `It works into ${leg.loadOhm.toFixed(0)} ohm with ${leg.sourceOhm} ohm behind it${heaviest(link, facts)}.`,
        link.inputs.length > 1
          ? 'Listen at another socket, or put a box with its own output between.'
          : 'Take the load off, or put a box with its own output between.',
      )
  }

  for (const channel of link.output.channels) {
    const cold = facts.legs.find((leg) => leg.signal === channel.signal && leg.leg === 'cold')
    const [reach] = facts.reaches.filter(({ signal, db }) => signal === channel.signal && db > silenceDb)
    if (cold && reach && cold.loadOhm / cold.sourceOhm < shortedShare && reach.db < halfLevelDb)
      find(
        'note',
        'half level',
        output,
        `Half the level of ${channel.signal} arrives.`,
        `${decibels(reach.db)} are lost: one of two legs drives nothing.`,
        'Allow for 6 dB, or use a transformer.',
      )
  }
}

/** Names what takes most of an output that several things hang on. */
function heaviest(link: PluggedLink, { loads }: Facts): string {
  if (link.inputs.length < 2) return ''
  const most = loads.reduce((one, other) => (other.share > one.share ? other : one))
  return `; ${link.inputs[most.input]!.name} takes ${(most.share * 100).toFixed(0)} % of the current`
}
