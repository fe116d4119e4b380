import type { Contact } from '../model'
import { dcFactsOf, type InputDc, type NeedDc, type OutputDc, type SupplyDc } from './facts-of-dc'
import {
  type Leg,
  legsWorkedInto,
  type Load,
  loadsOf,
  type OpenLeg,
  openLegsOf,
  openOutputContactsOf,
  type Reach,
  reachesOf,
  leakageDb,
} from './facts-of-sound'
import { isBalanced, joinedContacts } from './impedance'
import type { PluggedLink } from './link'
import { networkAt } from './solve'
import { arrivesAsStream, soundsBackwards } from './streams'
import type { Variant } from './variants'

/** Facts of one variant of how contacts touch, read off the solution alone. */
export interface Facts {
  reaches: Reach[]
  legs: Leg[]
  openLegs: OpenLeg[]
  /** Contacts of a floating output that nothing holds. */
  openOutputContacts: Contact[]
  outputDc: OutputDc[]
  supplies: SupplyDc[]
  needs: NeedDc[]
  inputDc: InputDc[]
  loads: Load[]
  /** Inputs that hear nothing though sound put in there would come out at the output: a converter faces the wrong way. */
  backwards: number[]
  /** Inputs at which sound arrives as a digital stream. */
  streams: number[]
  /** For each input channel, whether both legs see the same impedance to ground and are distinguished. */
  balanced: { input: number; channel: string; balanced: boolean }[]
  /** Contacts of the output that the link joins to each other. */
  joined: [Contact, Contact][]
}

/** Frequencies that every link is solved at, Hz; the middle one is where gains are stated. */
export const tones = { low: 100, middle: 1000, high: 10_000 } as const

/**
 * Everything that a link says of itself in one way of touching.
 *
 * @throws SingularNetwork
 */
export function factsOf(link: PluggedLink, { netlist }: Variant): Facts {
  const middle = networkAt(netlist, tones.middle)
  const reaches = reachesOf(link, netlist, middle)
  const asked = link.inputs.slice(0, link.asked)
  const silent = asked
    .map((_, input) => input)
    .filter((input) => !reaches.some((reach) => reach.input === input && reach.db > leakageDb))
  return {
    reaches,
    legs: legsWorkedInto(link, middle),
    openLegs: openLegsOf(link, netlist),
    openOutputContacts: openOutputContactsOf(link, netlist),
    ...dcFactsOf(link, netlist),
    loads: loadsOf(link, middle),
    backwards: silent.filter((input) => soundsBackwards(link, netlist, input)),
    streams: asked.map((_, input) => input).filter((input) => arrivesAsStream(link, input)),
    balanced: asked.flatMap((each, input) =>
      each.channels.map((channel) => ({
        input,
        channel: channel.id,
        balanced: isBalanced(middle, input, channel),
      })),
    ),
    joined: joinedContacts(link, netlist),
  }
}
