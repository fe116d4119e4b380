import type { Contact } from '../model'
import { type InputChannel, type PluggedLink, signalsOfOutput } from './link'
import { groundOf, inputNode, outputNode, senderGround } from './link-parts'
import { impedanceBetween } from './impedance'
import type { Netlist } from './netlist'
import { magnitude, minus, type Network, networkAt, type Phasor, type Solution } from './solve'

/** What reaches one channel of an input from one signal, for 1 V at the source. */
export interface Reach {
  input: number
  channel: string
  signal: string
  /** Gain at 1 kHz; -Infinity for nothing. */
  db: number
  /** Polarity. */
  sign: 1 | -1
  /** Common-mode part on a differential channel, which it rejects; -Infinity where there is one leg. */
  commonDb: number
  /** Gain at 10 kHz over that at 1 kHz, and at 100 Hz. */
  trebleDb: number
  bassDb: number
  /** Where the treble and the bass have fallen by 3 dB; undefined when that is above 40 kHz or under 10 Hz. */
  cornerHz: number | undefined
  bassCornerHz: number | undefined
}

/** The load on one leg of an output. */
export interface Leg {
  signal: string
  leg: 'hot' | 'cold'
  contact: Contact
  sourceOhm: number
  loadOhm: number
}

/** A leg of an input that nothing outside holds: its contact is open. */
export interface OpenLeg {
  input: number
  channel: string
  leg: 'hot' | 'cold'
  contact: Contact
}

/** Share of the output's current that one input draws, 0 to 1. */
export interface Load {
  input: number
  share: number
}

/** Gain below which a signal that arrives is leakage, dB. */
export const leakageDb = -60

const searchHz = { lowest: 10, highest: 40_000 } as const
const [bassHz, middleHz, trebleHz] = [100, 1000, 10_000]
const audible = 1e-6

export const decibelsOf = (ratio: number): number => (ratio < 1e-12 ? -Infinity : 20 * Math.log10(ratio))

/** Voltage across a channel of an input. */
export const acrossInput = (
  solution: Solution,
  input: number,
  channel: Pick<InputChannel, 'hot' | 'cold'>,
): Phasor =>
  minus(
    solution.volts(inputNode(input, channel.hot)),
    solution.volts(channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold)),
  )

/** Everything that reaches the inputs asked about. */
export function reachesOf(link: PluggedLink, netlist: Netlist, middle: Network): Reach[] {
  const networks = new Map<number, Network>([[middleHz, middle]])
  const networkOf = (frequencyHz: number) => {
    const network = networks.get(frequencyHz) ?? networkAt(netlist, frequencyHz)
    networks.set(frequencyHz, network)
    return network
  }
  const signals = signalsOfOutput(link)
  return link.inputs.slice(0, link.asked).flatMap((each, input) =>
    each.channels.flatMap((channel) =>
      signals.map((signal): Reach => {
        const solution = middle.driven(signal)
        const volts = acrossInput(solution, input, channel)
        const size = magnitude(volts)
        const gainAt = (frequencyHz: number) =>
          magnitude(acrossInput(networkOf(frequencyHz).driven(signal), input, channel))
        const heard = size > audible
        return {
          input,
          channel: channel.id,
          signal,
          db: decibelsOf(size),
          sign: volts.re < 0 ? -1 : 1,
          commonDb: decibelsOf(commonVolts(solution, input, channel)),
          trebleDb: heard ? decibelsOf(gainAt(trebleHz)) - decibelsOf(size) : 0,
          bassDb: heard ? decibelsOf(gainAt(bassHz)) - decibelsOf(size) : 0,
          cornerHz: heard ? cornerOf(gainAt, size, searchHz.highest) : undefined,
          bassCornerHz: heard ? cornerOf(gainAt, size, searchHz.lowest) : undefined,
        }
      }),
    ),
  )
}

/** Mean of both legs against the input's ground, as a size. */
function commonVolts(
  solution: Solution,
  input: number,
  { hot, cold }: Pick<InputChannel, 'hot' | 'cold'>,
): number {
  if (cold === undefined) return 0
  const [one, other] = [hot, cold].map((contact) =>
    minus(solution.volts(inputNode(input, contact)), solution.volts(groundOf(input))),
  ) as [Phasor, Phasor]
  return magnitude({ re: (one.re + other.re) / 2, im: (one.im + other.im) / 2 })
}

/** Precision of a corner frequency, as a ratio. */
const cornerPrecision = 1e-6

/**
 * The frequency between 1 kHz and an end where the gain is 3 dB under that at 1 kHz: by false position on logarithms of
 * both, the end that stays halved (Illinois, Dowell and Jarratt, 1971).
 */
function cornerOf(
  gainAt: (frequencyHz: number) => number,
  middle: number,
  endHz: number,
): number | undefined {
  // where nothing is left the logarithm has no end
  const overAt = (frequencyHz: number) => Math.max(-30, Math.log((gainAt(frequencyHz) * Math.SQRT2) / middle))
  let [inside, outside] = [Math.log(middleHz), Math.log(endHz)]
  let [over, under] = [Math.log(Math.SQRT2), overAt(endHz)]
  if (under > 0) return undefined
  let stayed: 'inside' | 'outside' | undefined
  for (let round = 0; round < 60 && Math.abs(outside - inside) > cornerPrecision; round++) {
    const between = (inside * under - outside * over) / (under - over)
    const value = overAt(Math.exp(between))
    // close enough: the next step would not move the corner
    if (Math.abs(value) < cornerPrecision * 0.1) return Math.exp(between)
    if (value > 0) {
      ;[inside, over] = [between, value]
      if (stayed === 'outside') under /= 2
      stayed = 'outside'
    } else {
      ;[outside, under] = [between, value]
      if (stayed === 'inside') over /= 2
      stayed = 'inside'
    }
  }
  return Math.exp(inside)
}

/** The load on each leg of the output, at 1 kHz. */
export function legsWorkedInto({ output }: PluggedLink, middle: Network): Leg[] {
  return output.channels.flatMap((channel): Leg[] => {
    const solution = middle.driven(channel.signal)
    const against = (contact: Contact) =>
      minus(solution.volts(outputNode(contact)), solution.volts(senderGround))
    const leg = (which: Leg['leg'], contact: Contact, openVolts: number, volts: Phasor): Leg => {
      const drop = magnitude(minus({ re: openVolts, im: 0 }, volts))
      const current = channel.ohm > 0 ? drop / channel.ohm : 0
      return {
        signal: channel.signal,
        leg: which,
        contact,
        sourceOhm: channel.ohm,
        loadOhm: current > 0 ? magnitude(volts) / current : Infinity,
      }
    }
    const { drive, hot, cold } = channel
    if (drive === 'floating' && cold !== undefined)
      return [leg('hot', hot, 1, minus(against(hot), against(cold)))]
    if (drive === 'symmetric' && cold !== undefined)
      return [leg('hot', hot, 0.5, against(hot)), leg('cold', cold, -0.5, against(cold))]
    return [leg('hot', hot, 1, against(hot))]
  })
}

/** Impedance to the outside above which a contact counts as open. */
const openOhm = 5e6

/** Legs of differential inputs that nothing outside holds: neither a ground, nor a contact of the output, nor the other leg over a winding. */
export function openLegsOf(link: PluggedLink, netlist: Netlist): OpenLeg[] {
  const { output } = link
  const held = [
    ...new Set(output.channels.flatMap(({ hot, cold }) => (cold === undefined ? [hot] : [hot, cold]))),
  ]
  return link.inputs.slice(0, link.asked).flatMap((each, input) => {
    const channels = each.channels.filter(({ cold }) => cold !== undefined)
    if (channels.length === 0) return []
    // without the input's own parts, the rest of the link is tied only to the sender
    const own = `input ${input} `
    const network = networkAt(
      netlist.filter((part) => part.kind === 'wire' || !part.id.startsWith(own)),
      middleHz,
    )
    const anchors = [groundOf(input), senderGround, ...held.map(outputNode)]
    const isOpen = (contact: Contact, other: Contact) =>
      [...anchors, inputNode(input, other)].every(
        (anchor) => impedanceBetween(network, inputNode(input, contact), anchor) > openOhm,
      )
    return channels.flatMap((channel): OpenLeg[] =>
      (['hot', 'cold'] as const).flatMap((leg) => {
        const contact = channel[leg]!
        return isOpen(contact, channel[leg === 'hot' ? 'cold' : 'hot']!)
          ? [{ input, channel: channel.id, leg, contact }]
          : []
      }),
    )
  })
}

/** Contacts of a floating output that nothing outside holds: its circuit is not closed. */
export function openOutputContactsOf({ output, inputs }: PluggedLink, netlist: Netlist): Contact[] {
  const channels = output.channels.filter(({ drive, cold }) => drive === 'floating' && cold !== undefined)
  if (channels.length === 0) return []
  // without the output's own parts, the rest of the link is tied only to the inputs
  const network = networkAt(
    netlist.filter((part) => part.kind === 'wire' || !part.id.startsWith('output ')),
    middleHz,
  )
  const anchors = inputs.flatMap(({ channels: own }, input) => [
    groundOf(input),
    ...own.flatMap(({ hot, cold }) =>
      [hot, ...(cold === undefined ? [] : [cold])].map((contact) => inputNode(input, contact)),
    ),
  ])
  return channels.flatMap(({ hot, cold }) =>
    [
      [hot, cold!],
      [cold!, hot],
    ].flatMap(([contact, other]) =>
      [...anchors, outputNode(other!)].every(
        (anchor) => impedanceBetween(network, outputNode(contact!), anchor) > openOhm,
      )
        ? [contact!]
        : [],
    ),
  )
}

/** Share of the output's current that each input takes, from the voltage across its channels. */
export function loadsOf(link: PluggedLink, middle: Network): Load[] {
  const solutions = signalsOfOutput(link).map((signal) => middle.driven(signal))
  const taken = link.inputs.map((each, input) =>
    each.channels.reduce(
      (sum, channel) =>
        sum +
        solutions.reduce(
          (most, solution) => Math.max(most, magnitude(acrossInput(solution, input, channel)) / channel.ohm),
          0,
        ),
      0,
    ),
  )
  const all = taken.reduce((sum, each) => sum + each, 0)
  return taken.map((each, input) => ({ input, share: all > 0 ? each / all : 0 }))
}
