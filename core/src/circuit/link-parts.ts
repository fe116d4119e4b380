import type { Contact } from '../model'
import type { InputChannel, InputPort, OutputChannel, OutputPort, Piece, Terminal } from './link'
import { ground, type NodeName, type Part } from './netlist'

export const nodeOf = (where: string, contact: Contact): NodeName => `${where}/${contact}`
export const outputNode = (contact: Contact): NodeName => nodeOf('output', contact)
export const inputNode = (index: number, contact: Contact): NodeName => nodeOf(`input ${index}`, contact)
export const terminalNode = (piece: number, place: Terminal): NodeName =>
  'inside' in place
    ? `piece ${piece}:${place.inside}`
    : nodeOf(`piece ${piece} end ${place.end}`, place.contact)

/** Coupling capacitor large enough to pass everything audible. */
const couplingFarad = 100e-6

/** Ground of an input. That of the first is the reference; only the link ties the others to it. */
export const groundOf = (index: number): NodeName => (index === 0 ? ground : `ground of ${index}`)

/** Ground of the sender, which only the link ties to that of the receiver. */
export const senderGround: NodeName = 'sender ground'

/**
 * What takes its power over a contact lets sound out through a capacitor there, or it would short its own supply. A coil
 * that floats has nothing to ground, and passes DC from leg to leg.
 */
export const isPoweredOver = (
  { needs }: Pick<OutputPort, 'needs'>,
  drive: OutputChannel['drive'],
  contact: Contact,
): boolean => drive !== 'floating' && (needs?.some(({ contacts }) => contacts.includes(contact)) ?? false)

/** The circuit behind the contacts of an output. */
export function outputParts(output: OutputPort): Part[] {
  const parts: Part[] = output.ground.map((contact) =>
    wire(`output ground ${contact}`, outputNode(contact), senderGround),
  )
  for (const { signal, drive, hot, cold, ohm } of output.channels) {
    const leg = (contact: Contact): NodeName => {
      if (!isPoweredOver(output, drive, contact)) return outputNode(contact)
      const to = `output:${contact}`
      parts.push({
        kind: 'capacitor',
        id: `output ${signal} out ${contact}`,
        from: outputNode(contact),
        to,
        farad: couplingFarad,
      })
      return to
    }
    const hotNode = leg(hot)
    const coldNode = cold === undefined ? senderGround : leg(cold)
    const source = (id: string, from: NodeName, to: NodeName, volts: number): Part => ({
      kind: 'source',
      id: `output ${signal} ${id}`,
      from,
      to,
      volts,
      ohm,
      signal,
    })
    if (drive === 'floating') parts.push(source('coil', hotNode, coldNode, 1))
    else if (drive === 'symmetric')
      parts.push(source('hot', hotNode, senderGround, 0.5), source('cold', coldNode, senderGround, -0.5))
    else {
      parts.push(source('hot', hotNode, senderGround, 1))
      if (drive === 'impedance-balanced')
        parts.push({ kind: 'resistor', id: `output ${signal} cold`, from: coldNode, to: senderGround, ohm })
    }
  }
  for (const need of output.needs ?? [])
    for (const contact of need.contacts)
      parts.push({
        kind: 'resistor',
        id: `output ${need.name} ${contact}`,
        from: outputNode(contact),
        to: senderGround,
        // each contact draws its share
        ohm: (need.typicalVolts / need.typicalAmperes) * need.contacts.length,
      })
  return parts
}

/** The circuit between the ends of a piece. */
export function pieceParts(piece: Piece, index: number): Part[] {
  const at = (place: Terminal) => terminalNode(index, place)
  const parts: Part[] = piece.wires.map(([from, to], order) =>
    wire(`${piece.id} ${index} wire ${order}`, at(from), at(to)),
  )
  for (const [order, part] of (piece.parts ?? []).entries()) {
    const id = `${piece.id} ${index} part ${order}`
    if (part.kind === 'transformer')
      parts.push({
        ...part,
        id,
        first: [at(part.first[0]), at(part.first[1])],
        second: [at(part.second[0]), at(part.second[1])],
      })
    else if (part.kind === 'converter') {
      const [first, second] = [part.first, part.second].map(([one, other]) => [at(one), at(other)] as const)
      parts.push(
        { kind: 'resistor', id: `${id} in`, from: first![0], to: first![1], ohm: part.inputOhm },
        { kind: 'amplifier', id, first: first!, second: second!, gain: 1, ohm: part.outputOhm },
      )
    } else if (part.kind === 'supply')
      parts.push({ ...part, kind: 'source', id, from: at(part.from), to: at(part.to) })
    else parts.push({ ...part, id, from: at(part.from), to: at(part.to) })
  }
  for (const [order, { from, to, farad }] of (piece.strays ?? []).entries())
    parts.push({
      kind: 'capacitor',
      id: `${piece.id} ${index} stray ${order}`,
      from: at(from),
      to: at(to),
      farad,
    })
  return parts
}

/** Impedance from each leg of a differential input to ground over its input impedance, where none is stated. */
const legsOverInput = 10

/** Load of an input channel: between its legs, and from each leg to ground. */
function loadOf({ ohm, cold, commonModeOhm }: InputChannel): { betweenOhm: number; legOhm?: number } {
  if (cold === undefined) return { betweenOhm: ohm }
  if (commonModeOhm !== undefined) return { betweenOhm: ohm, legOhm: commonModeOhm }
  if (!Number.isFinite(ohm)) return { betweenOhm: ohm }
  // both legs in series are parallel to the load between them: together they make the stated impedance
  const legOhm = legsOverInput * ohm
  return { betweenOhm: (ohm * 2 * legOhm) / (2 * legOhm - ohm), legOhm }
}

/** A leg of a differential input to its ground. One that is only taken for granted keeps DC of a supply back, as inputs do. */
function legParts(
  input: InputPort,
  index: number,
  channel: InputChannel,
  leg: 'hot' | 'cold',
  ohm: number,
): Part[] {
  const contact = channel[leg]!
  const id = `input ${index} ${channel.id} ${leg} leg`
  const [from, to] = [inputNode(index, contact), groundOf(index)]
  const fed = input.supplies?.some(({ contacts }) => contacts.includes(contact))
  if (channel.commonModeOhm !== undefined || !fed) return [{ kind: 'resistor', id, from, to, ohm }]
  const inner = `${id} inner`
  return [
    { kind: 'capacitor', id: `${id} coupling`, from, to: inner, farad: couplingFarad },
    { kind: 'resistor', id, from: inner, to, ohm },
  ]
}

/** The circuit behind the contacts of an input. */
export function inputParts(input: InputPort, index: number): Part[] {
  const at = (contact: Contact) => inputNode(index, contact)
  const own = groundOf(index)
  const parts: Part[] = input.ground.map((contact) =>
    wire(`input ${index} ground ${contact}`, at(contact), own),
  )
  const resistor = (id: string, from: NodeName, to: NodeName, ohm: number): Part => ({
    kind: 'resistor',
    id: `input ${index} ${id}`,
    from,
    to,
    ohm,
  })
  for (const channel of input.channels) {
    const cold = channel.cold === undefined ? own : at(channel.cold)
    const { betweenOhm, legOhm } = loadOf(channel)
    if (Number.isFinite(betweenOhm)) parts.push(resistor(channel.id, at(channel.hot), cold, betweenOhm))
    if (legOhm !== undefined)
      for (const leg of ['hot', 'cold'] as const) parts.push(...legParts(input, index, channel, leg, legOhm))
    if (channel.farad)
      parts.push({
        kind: 'capacitor',
        id: `input ${index} ${channel.id}`,
        from: at(channel.hot),
        to: cold,
        farad: channel.farad,
      })
  }
  for (const { name, volts, ohm, contacts } of input.supplies ?? [])
    for (const contact of contacts)
      parts.push({
        kind: 'source',
        id: `input ${index} supply ${name} ${contact}`,
        from: at(contact),
        to: own,
        volts,
        ohm,
      })
  return parts
}

const wire = (id: string, from: NodeName, to: NodeName): Part => ({ kind: 'wire', id, from, to })
