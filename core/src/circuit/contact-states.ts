import { type Contact, contactsOf, type Shape } from '../model'
import { matings } from './contacts'
import { factsOf } from './facts'
import { leakageDb } from './facts-of-sound'
import { impedanceBetween } from './impedance'
import { type Piece, type Terminal, type PluggedLink, wayTo } from './link'
import type { Variant } from './variants'
import { groundOf, inputNode, outputNode, terminalNode } from './link-parts'
import type { NodeName } from './netlist'
import { magnitude, minus, networkAt, solve } from './solve'

/** What a contact carries. `return` is the inverted second leg of a balanced run. */
export type Travels = 'signal' | 'return' | 'supply' | 'ground' | 'nothing'

export interface ContactState {
  contact: Contact
  travels: Travels
  /** Each sound above silence, for 1 V at its source, against the ground of the receiver. */
  signals: { signal: string; db: number; sign: 1 | -1 }[]
  volts: number
  /** DC through the contact, where it ends in a supply or an output. */
  amperes?: number
}

/** One plug or socket along the link, with the state of its contacts. */
export interface ConnectorState {
  name: string
  shape: Shape
  gender: 'plug' | 'socket'
  contacts: ContactState[]
}

/** Two contacts that touch or that a part connects: indices in the contact lists of two neighbouring halves. */
export interface Strand {
  from: number
  to: number
  through: 'touch' | 'wire' | 'part'
}

/** A link from the output to the input asked about: halves in order, and the strands from each to the next. */
export interface LinkContacts {
  halves: ConnectorState[]
  strands: Strand[][]
}

const darkVolts = 0.02
const groundOhm = 1

/** Every contact of a link, with its solved state. */
export function contactStates(link: PluggedLink, variant: Variant): LinkContacts {
  const { outputDc, supplies } = factsOf(link, variant)
  const half = halvesOf(link, variant)
  const halves = [
    half(link.output.name, link.output, outputNode, (contact) => {
      const found = outputDc.find((each) => each.contact === contact)
      return found && Math.abs(found.volts) > darkVolts ? found.amperes : undefined
    }),
  ]
  const strands: Strand[][] = []
  const touching = () => {
    const [one, other] = halves.slice(-2) as [ConnectorState, ConnectorState]
    strands.push(
      touchesOf(one, other, variant).map(([from, to]) => ({
        from: one.contacts.findIndex(({ contact }) => contact === from),
        to: other.contacts.findIndex(({ contact }) => contact === to),
        through: 'touch',
      })),
    )
  }
  for (const index of wayTo(link, 0)) {
    const piece = link.pieces[index]!
    for (const end of [0, 1]) {
      halves.push(half(piece.name, piece.ends[end]!, (contact) => terminalNode(index, { end, contact })))
      if (end === 0) touching()
      else strands.push(insideOf(piece))
    }
  }
  const input = link.inputs[0]!
  const suppliedAmperes = (contact: Contact) => supplies.find((each) => each.contact === contact)?.amperes
  halves.push(half(input.name, input, (contact) => inputNode(0, contact), suppliedAmperes))
  touching()
  return { halves, strands }
}

/** Makes the state of a plug or socket from the solution of a link, for sound at 1 kHz and for DC. */
function halvesOf(link: PluggedLink, { netlist }: Variant) {
  const signals = [...new Set(link.output.channels.map(({ signal }) => signal))]
  const middle = networkAt(netlist, 1000)
  const sound = signals.map((signal) => ({ signal, solution: middle.driven(signal) }))
  const dc = solve(netlist, 0, undefined)
  const ground = groundOf(0)

  const stateOf = (contact: Contact, node: NodeName, amperes?: number): ContactState => {
    const heard = sound.flatMap(({ signal, solution }) => {
      const volts = minus(solution.volts(node), solution.volts(ground))
      const db = 20 * Math.log10(Math.max(1e-12, magnitude(volts)))
      return db > leakageDb ? [{ signal, db, sign: volts.re < 0 ? (-1 as const) : (1 as const) }] : []
    })
    const volts = minus(dc.volts(node), dc.volts(ground)).re
    const travels: Travels = heard.length
      ? heard.every(({ sign }) => sign < 0)
        ? 'return'
        : 'signal'
      : Math.abs(volts) > darkVolts
        ? 'supply'
        : impedanceBetween(middle, node, ground) < groundOhm
          ? 'ground'
          : 'nothing'
    return { contact, travels, signals: heard, volts, amperes }
  }
  return (
    name: string,
    { shape, gender }: { shape: Shape; gender: 'plug' | 'socket' },
    node: (contact: Contact) => NodeName,
    amperes?: (contact: Contact) => number | undefined,
  ): ConnectorState => ({
    name,
    shape,
    gender,
    contacts: contactsOf[shape].map((contact) => stateOf(contact, node(contact), amperes?.(contact))),
  })
}

/** Contacts of two neighbours that touch, first one's before the other's, in this variant. */
function touchesOf(
  one: ConnectorState,
  other: ConnectorState,
  { matings: chosen }: Variant,
): [Contact, Contact][] {
  const pairs =
    chosen.find(({ at }) => at === `${one.name} into ${other.name}`)?.pairs ??
    matings(
      one.gender === 'plug' ? one.shape : other.shape,
      one.gender === 'plug' ? other.shape : one.shape,
    )[0] ??
    []
  return pairs.map(([plug, socket]) => (one.gender === 'plug' ? [plug, socket] : [socket, plug]))
}

/** Connections between the contacts of two ends of a piece: direct wires, or parts and inner nodes. */
function insideOf({ ends, wires, parts = [] }: Piece, one = 0, other = 1): Strand[] {
  const key = (place: Terminal) => ('inside' in place ? ` ${place.inside}` : `${place.end} ${place.contact}`)
  const edges = [
    ...wires.map(([from, to]) => ({ from: key(from), to: key(to), part: false })),
    ...parts.flatMap((part) => {
      const pairs =
        'first' in part
          ? [
              [part.first[0], part.second[0]],
              [part.first[1], part.second[1]],
            ]
          : [[part.from, part.to]]
      const bare = part.kind === 'resistor' && part.ohm < 10
      return pairs.map(([from, to]) => ({ from: key(from!), to: key(to!), part: !bare }))
    }),
  ]
  return contactsOf[ends[one]!.shape].flatMap((contact, from) => {
    // breadth first; a contact of any end is where a strand ends
    const start = `${one} ${contact}`
    const reached = new Map([[start, false]])
    for (const [node, part] of reached) {
      if (node !== start && !node.startsWith(' ')) continue
      for (const edge of edges)
        for (const [at, next] of [
          [edge.from, edge.to],
          [edge.to, edge.from],
        ] as const)
          if (at === node && !reached.has(next)) reached.set(next, part || edge.part)
    }
    return contactsOf[ends[other]!.shape].flatMap((far, to): Strand[] => {
      const part = reached.get(`${other} ${far}`)
      return part === undefined ? [] : [{ from, to, through: part ? 'part' : 'wire' }]
    })
  })
}

/** A cable or adapter by itself: every connected pair of ends, with its connections. */
export function pieceStrands(piece: Piece): LinkContacts[] {
  const names = ['towards the source', 'other end', 'further end', 'last end']
  const half = (end: number): ConnectorState => ({
    name: names[end] ?? `end ${end}`,
    shape: piece.ends[end]!.shape,
    gender: piece.ends[end]!.gender,
    contacts: contactsOf[piece.ends[end]!.shape].map((contact) => ({
      contact,
      travels: contact === '1' || contact === 'sleeve' || contact === 'ground' ? 'ground' : 'signal',
      signals: [],
      volts: 0,
    })),
  })
  return piece.ends.flatMap((_, one) =>
    piece.ends.slice(one + 1).flatMap((__, index): LinkContacts[] => {
      const other = one + 1 + index
      const strands = insideOf(piece, one, other)
      return strands.length ? [{ halves: [half(one), half(other)], strands: [strands] }] : []
    }),
  )
}
