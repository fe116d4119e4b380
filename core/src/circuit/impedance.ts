import type { Contact } from '../model'
import type { InputChannel, PluggedLink } from './link'
import { groundOf, inputNode, outputNode } from './link-parts'
import { type Netlist, type NodeName, nodesOfPart, type Part } from './netlist'
import { leastOhm, magnitude, minus, type Network, networkAt, type Phasor, type Solution } from './solve'

const middleHz = 1000

/** Impedance between two nodes of a network, every source at rest, ohm. */
export function impedanceBetween(network: Network, from: NodeName, to: NodeName): number {
  const solution = network.probed(from, to)
  return magnitude(minus(solution.volts(from), solution.volts(to)))
}

/** Largest difference of the two legs' impedance to ground that still counts as balanced. */
const balanceTolerance = 0.1

/** Whether both legs of a differential input see the same impedance to ground, so that common interference cancels. */
export function isBalanced(
  middle: Network,
  input: number,
  channel: Pick<InputChannel, 'id' | 'hot' | 'cold'>,
): boolean {
  if (channel.cold === undefined) return false
  const [hot, cold] = [channel.hot, channel.cold].map((contact) =>
    impedanceBetween(middle, inputNode(input, contact), groundOf(input)),
  ) as [number, number]
  return Math.abs(hot - cold) <= balanceTolerance * Math.max(hot, cold)
}

/** Resistance that makes thermal noise at a channel of an input, by who brings it, ohm. */
export interface ThermalOhm {
  /** The output's resistance, whose noise its own noise figure may include, ohm. */
  output: number
  /** Cables, pads and transformers. */
  pieces: number
  /** The inputs, with their supplies. */
  inputs: number
}

/**
 * The thermal noise across a channel as the resistance that makes as much, at 1 kHz. One ampere pushed in there drives
 * a current through every resistance of the link; by reciprocity each adds its own ohms times the square of that
 * current, and all together are the real part of the impedance seen (Nyquist, 1928).
 */
export function thermalOhmOf(
  netlist: Netlist,
  middle: Network,
  input: number,
  channel: Pick<InputChannel, 'hot' | 'cold'>,
): ThermalOhm {
  const cold = channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold)
  const solution = middle.probed(inputNode(input, channel.hot), cold)
  const ohm: ThermalOhm = { output: 0, pieces: 0, inputs: 0 }
  for (const part of netlist) ohm[ownerOf(part)] += heatedOhm(part, solution)
  return ohm
}

const ownerOf = ({ id }: Part): keyof ThermalOhm =>
  id.startsWith('output ') ? 'output' : id.startsWith('input ') ? 'inputs' : 'pieces'

/** A part's resistances, weighted by the square of the current through each, ohm. */
function heatedOhm(part: Part, solution: Solution): number {
  const square = ({ re, im }: Phasor) => re * re + im * im
  switch (part.kind) {
    case 'resistor':
    case 'source': {
      const volts = minus(solution.volts(part.from), solution.volts(part.to))
      return (part.ohm * square(volts)) / Math.max(part.ohm, leastOhm) ** 2
    }
    case 'transformer': {
      const [first, second] = solution.windingAmperes(part.id)
      return part.firstOhm * square(first) + part.secondOhm * square(second)
    }
    default:
      return 0
  }
}

/** Contacts of the output with next to nothing between them though they carry different things. */
export function joinedContacts(link: PluggedLink, netlist: Netlist): [Contact, Contact][] {
  const sounding = link.output.channels.flatMap(({ hot, cold }) => (cold === undefined ? [hot] : [hot, cold]))
  const all = [...new Set(sounding), ...link.output.ground.slice(0, 1)]
  // seen from outside, without the circuit behind the contacts
  const outside = netlist.filter(
    (part) =>
      part.kind === 'wire' ||
      'first' in part ||
      !nodesOfPart(part).some((node) => node.startsWith('output/')),
  )
  const network = networkAt(outside, middleHz)
  return all.flatMap((one, index) =>
    all
      .slice(index + 1)
      .filter((other) => impedanceBetween(network, outputNode(one), outputNode(other)) < 1)
      .map((other): [Contact, Contact] => [one, other]),
  )
}
