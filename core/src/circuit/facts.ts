import type { Contact } from './contacts'
import { type InputPort, type PluggedLink, wayTo } from './link'
import { type Variant, variantsOf } from './variants'
import { groundOf, inputNode, outputNode, senderGround } from './link-parts'
import { type NodeName, nodesOfPart } from './netlist'
import { magnitude, minus, type Phasor, solve, type Solution } from './solve'

/** What reaches one channel of an input from one signal, for 1 V at the source. */
export interface Reach {
  input: number
  channel: string
  signal: string
  /** Gain at 1 kHz; -Infinity for nothing. */
  db: number
  /** Which way up it arrives. */
  sign: 1 | -1
  /** Gain at 10 kHz over that at 1 kHz. */
  trebleDb: number
  /** Where the treble has fallen by 3 dB; undefined when that is above 40 kHz. */
  cornerHz: number | undefined
}

/** What a leg of an output works into. */
export interface Leg {
  signal: string
  leg: 'hot' | 'cold'
  contact: Contact
  sourceOhm: number
  loadOhm: number
}

/** DC on a contact of the output, against the sender's own ground. */
export interface OutputDc {
  contact: Contact
  volts: number
  /** Current that the link pushes into the contact, amperes. */
  amperes: number
}

/** A supply of an input and what becomes of it on one contact. */
export interface SupplyDc {
  input: number
  name: string
  contact: Contact
  openVolts: number
  volts: number
  amperes: number
}

/** A thing that wants power, and what it gets. */
export interface NeedDc {
  name: string
  leastVolts: number
  volts: number
}

/** DC of others that stands on a contact of an input. */
export interface InputDc {
  input: number
  contact: Contact
  volts: number
}

/** What one input takes of all that the output gives, 0 to 1. */
export interface Load {
  input: number
  share: number
}

/** What one way of touching comes to. Read off the solution, nothing else. */
export interface Facts {
  reaches: Reach[]
  legs: Leg[]
  outputDc: OutputDc[]
  supplies: SupplyDc[]
  needs: NeedDc[]
  inputDc: InputDc[]
  loads: Load[]
  /** Inputs that hear nothing though sound put in there would come out at the output: something stands the wrong way. */
  backwards: number[]
  /** Inputs at which sound arrives as a digital stream. */
  streams: number[]
  /** For each input channel, whether both legs see the same impedance to ground and are told apart. */
  balanced: { input: number; channel: string; balanced: boolean }[]
  /** Contacts of the output that the link joins to each other. */
  joined: [Contact, Contact][]
}

const db = (value: number): number => (value < 1e-12 ? -Infinity : 20 * Math.log10(value))
const tones = { low: 100, middle: 1000, high: 10_000 } as const
const cornerSearchHz = 40_000

export function factsOf(link: PluggedLink, { netlist }: Variant): Facts {
  const signals = [...new Set(link.output.channels.map(({ signal }) => signal))]
  const dc = solve(netlist, 0, undefined)
  const sound = new Map(signals.map((signal) => [signal, solve(netlist, tones.middle, signal)]))
  const asked = link.inputs.slice(0, link.asked)

  const reaches = asked.flatMap((each, input) =>
    each.channels.flatMap((channel) =>
      signals.map((signal): Reach => {
        const middle = acrossInput(sound.get(signal)!, input, channel)
        const size = magnitude(middle)
        const gainAt = (frequencyHz: number) =>
          magnitude(acrossInput(solve(netlist, frequencyHz, signal), input, channel))
        const audible = size > 1e-6
        return {
          input,
          channel: channel.id,
          signal,
          db: db(size),
          sign: middle.re < 0 ? -1 : 1,
          trebleDb: audible ? db(gainAt(tones.high)) - db(size) : 0,
          cornerHz: audible ? cornerOf(gainAt, size) : undefined,
        }
      }),
    ),
  )

  const legs = link.output.channels.flatMap((channel) => {
    const solution = sound.get(channel.signal)!
    const against = (contact: Contact) =>
      minus(solution.volts(outputNode(contact)), solution.volts(senderGround))
    const leg = (which: 'hot' | 'cold', contact: Contact, openVolts: number, volts: Phasor): Leg => {
      const current = magnitude(minus({ re: openVolts, im: 0 }, volts)) / channel.ohm
      return {
        signal: channel.signal,
        leg: which,
        contact,
        sourceOhm: channel.ohm,
        loadOhm: magnitude(volts) / current,
      }
    }
    if (channel.drive === 'floating' && channel.cold !== undefined)
      return [leg('hot', channel.hot, 1, minus(against(channel.hot), against(channel.cold)))]
    if (channel.drive === 'symmetric' && channel.cold !== undefined)
      return [
        leg('hot', channel.hot, 0.5, against(channel.hot)),
        leg('cold', channel.cold, -0.5, against(channel.cold)),
      ]
    return [leg('hot', channel.hot, 1, against(channel.hot))]
  })

  const contacts = [
    ...new Set(link.output.channels.flatMap(({ hot, cold }) => (cold === undefined ? [hot] : [hot, cold]))),
  ]
  const outputVolts = (contact: Contact) => minus(dc.volts(outputNode(contact)), dc.volts(senderGround)).re
  const outputDc = contacts.map((contact): OutputDc => {
    const volts = outputVolts(contact)
    return { contact, volts, amperes: intoContact(link.output, contact, outputVolts) }
  })
  const dcAt = (input: number, contact: Contact) =>
    minus(dc.volts(inputNode(input, contact)), dc.volts(groundOf(input))).re
  const inputDc = asked.flatMap((each, input) =>
    soundContacts(each)
      .filter((contact) => !each.supplies?.some(({ contacts: fed }) => fed.includes(contact)))
      .map((contact): InputDc => ({ input, contact, volts: dcAt(input, contact) })),
  )
  const supplies = asked.flatMap((each, input) =>
    (each.supplies ?? []).flatMap(({ name, volts: openVolts, ohm, contacts: fed }) =>
      fed.map((contact): SupplyDc => {
        const volts = dcAt(input, contact)
        return { input, name, contact, openVolts, volts, amperes: (openVolts - volts) / ohm }
      }),
    ),
  )
  const needs = (link.output.needs ?? []).map((need): NeedDc => {
    return {
      name: need.name,
      leastVolts: need.leastVolts,
      volts: Math.min(...need.contacts.map(outputVolts)),
    }
  })
  const balanced = asked.flatMap((each, input) =>
    each.channels.map((channel) => ({
      input,
      channel: channel.id,
      balanced: isBalanced(netlist, input, channel),
    })),
  )
  const silent = asked
    .map((_, input) => input)
    .filter((input) => !reaches.some((reach) => reach.input === input && reach.db > silenceDb))
  return {
    reaches,
    legs,
    outputDc,
    supplies,
    needs,
    inputDc,
    loads: loadsOf(link, sound),
    backwards: silent.filter((input) => soundsBackwards(link, netlist, input)),
    streams: asked.map((_, input) => input).filter((input) => arrivesAsStream(link, input)),
    balanced,
    joined: joinedContacts(link, netlist, contacts),
  }
}

/** DC that flows into a contact of an output: through what it drives with, unless a capacitor is before it, and what it is powered by. */
function intoContact(
  { channels, needs = [] }: PluggedLink['output'],
  contact: Contact,
  volts: (contact: Contact) => number,
): number {
  const powered = needs
    .filter(({ contacts }) => contacts.includes(contact))
    .reduce(
      (sum, need) => sum + (volts(contact) * need.usualAmperes) / need.usualVolts / need.contacts.length,
      0,
    )
  const behind = channels.find(({ hot, cold }) => hot === contact || cold === contact)
  if (!behind || (powered !== 0 && behind.drive === 'single-ended')) return powered
  if (behind.drive !== 'floating' || behind.cold === undefined) return powered + volts(contact) / behind.ohm
  const across = (volts(behind.hot) - volts(behind.cold)) / behind.ohm
  return powered + (contact === behind.hot ? across : -across)
}

/** Under this nothing is heard. */
export const silenceDb = -60

/** What levels need of a link: how much of a signal reaches a channel, which way up, and what stands behind it. */
export interface Gain extends Pick<Reach, 'input' | 'channel' | 'signal' | 'db' | 'sign'> {
  /** Impedance that the channel looks back into, ohm. */
  sourceOhm: number
  balanced: boolean
}

/** Gains at 1 kHz alone, of the first way of touching, for the inputs asked about. Undefined when the plugs do not go together. */
export function gainsOf(link: PluggedLink): Gain[] | undefined {
  const found = variantsOf(link)
  if ('misfit' in found) return undefined
  const { netlist } = found.variants[0]!
  const signals = [...new Set(link.output.channels.map(({ signal }) => signal))]
  const sound = signals.map((signal) => ({ signal, solution: solve(netlist, tones.middle, signal) }))
  return link.inputs.slice(0, link.asked).flatMap((each, input) =>
    each.channels.flatMap((channel) => {
      const sourceOhm = behindChannel(netlist, input, channel)
      const balanced = isBalanced(netlist, input, channel)
      return sound.map(({ signal, solution }) => {
        const volts = acrossInput(solution, input, channel)
        return {
          input,
          channel: channel.id,
          signal,
          db: db(magnitude(volts)),
          sign: volts.re < 0 ? (-1 as const) : (1 as const),
          sourceOhm,
          balanced,
        }
      })
    }),
  )
}

/** Contacts of an input that take in sound. */
const soundContacts = ({ channels }: InputPort): Contact[] => [
  ...new Set(channels.flatMap(({ hot, cold }) => (cold === undefined ? [hot] : [hot, cold]))),
]

/** Voltage across a channel of an input. */
const acrossInput = (solution: Solution, input: number, channel: { hot: Contact; cold?: Contact }): Phasor =>
  minus(
    solution.volts(inputNode(input, channel.hot)),
    solution.volts(channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold)),
  )

/** Impedance between two nodes, every source at rest: one ampere from a large voltage behind as large a resistance. */
export function impedanceBetween(netlist: Variant['netlist'], from: NodeName, to: NodeName): number {
  const large = 1e9
  const withProbe = [
    ...netlist,
    { kind: 'source' as const, id: 'probe', from, to, volts: large, ohm: large, signal: 'probe' },
  ]
  const solution = solve(withProbe, tones.middle, 'probe')
  return magnitude(minus(solution.volts(from), solution.volts(to)))
}

/** What a channel of an input looks back into: the network without the input's own parts. */
function behindChannel(
  netlist: Variant['netlist'],
  input: number,
  channel: { id: string; hot: Contact; cold?: Contact },
): number {
  const own = `input ${input} ${channel.id}`
  const without = netlist.filter((part) => part.kind === 'wire' || !part.id.startsWith(own))
  const cold = channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold)
  return impedanceBetween(without, inputNode(input, channel.hot), cold)
}

/** Share of the output's current that each input takes, from the voltage across its channels. */
function loadsOf(link: PluggedLink, sound: ReadonlyMap<string, Solution>): Load[] {
  const taken = link.inputs.map((each, input) =>
    each.channels.reduce(
      (sum, channel) =>
        sum +
        [...sound.values()].reduce(
          (most, solution) => Math.max(most, magnitude(acrossInput(solution, input, channel)) / channel.ohm),
          0,
        ),
      0,
    ),
  )
  const all = taken.reduce((sum, each) => sum + each, 0)
  return taken.map((each, input) => ({ input, share: all > 0 ? each / all : 0 }))
}

/** Whether sound put in at an input would come out at the output: then a converter stands the wrong way round. */
function soundsBackwards(link: PluggedLink, netlist: Variant['netlist'], input: number): boolean {
  return link.inputs[input]!.channels.some((channel) => {
    const probe = [
      ...netlist,
      {
        kind: 'source' as const,
        id: 'probe',
        from: inputNode(input, channel.hot),
        to: channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold),
        volts: 1,
        ohm: 1,
        signal: 'probe',
      },
    ]
    const solution = solve(probe, tones.middle, 'probe')
    return link.output.channels.some(({ hot, cold }) => {
      const across = minus(
        solution.volts(outputNode(hot)),
        solution.volts(cold === undefined ? senderGround : outputNode(cold)),
      )
      return db(magnitude(across)) > silenceDb
    })
  })
}

/** Whether sound arrives as a stream: the output gives one, or a converter on the way makes one. */
export const arrivesAsStream = (link: PluggedLink, input: number): boolean =>
  wayTo(link, input).reduce((stream, index) => {
    const converter = link.pieces[index]!.parts?.find((part) => part.kind === 'converter')
    return converter ? converter.way === 'in' : stream
  }, link.output.digital !== undefined)

/** Bisects for the frequency where the gain is 3 dB under that at 1 kHz. */
function cornerOf(gainAt: (frequencyHz: number) => number, middle: number): number | undefined {
  const wanted = middle / Math.SQRT2
  if (gainAt(cornerSearchHz) > wanted) return undefined
  let [low, high] = [tones.middle as number, cornerSearchHz]
  for (let round = 0; round < 30; round++) {
    const between = Math.sqrt(low * high)
    if (gainAt(between) > wanted) low = between
    else high = between
  }
  return low
}

/** Largest difference of the two legs' impedance to ground that still counts as balanced. */
const balanceTolerance = 0.1

/** Two legs of a differential input see the same impedance to ground: what falls on both then cancels. */
function isBalanced(
  netlist: Variant['netlist'],
  input: number,
  channel: { hot: Contact; cold?: Contact },
): boolean {
  if (channel.cold === undefined) return false
  const impedance = (node: NodeName) => impedanceBetween(netlist, node, groundOf(input))
  const [hot, cold] = [impedance(inputNode(input, channel.hot)), impedance(inputNode(input, channel.cold))]
  return Math.abs(hot - cold) <= balanceTolerance * Math.max(hot, cold)
}

/** Contacts of the output with next to nothing between them though they carry different things. */
function joinedContacts(
  link: PluggedLink,
  netlist: Variant['netlist'],
  contacts: readonly Contact[],
): [Contact, Contact][] {
  const joined: [Contact, Contact][] = []
  const all = [...contacts, ...link.output.ground.slice(0, 1)]
  // seen from outside: without what stands behind the contacts
  const outside = netlist.filter(
    (part) =>
      part.kind === 'wire' ||
      'first' in part ||
      !nodesOfPart(part).some((node) => node.startsWith('output/')),
  )
  for (const [index, one] of all.entries())
    for (const other of all.slice(index + 1)) {
      const probe = [
        ...outside,
        {
          kind: 'source' as const,
          id: 'probe',
          from: outputNode(one),
          to: outputNode(other),
          volts: 1e3,
          ohm: 1e3,
          signal: 'probe',
        },
      ]
      const solution = solve(probe, tones.middle, 'probe')
      if (magnitude(minus(solution.volts(outputNode(one)), solution.volts(outputNode(other)))) < 1)
        joined.push([one, other])
    }
  return joined
}
