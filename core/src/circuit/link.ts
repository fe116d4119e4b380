import { type Contact, contactsOf, fits, type Half, type Mating, matings, type Shape } from './contacts'
import { ground, type Netlist, type NodeName, type Part } from './netlist'

/** How an output drives its contacts. `ohm` is the whole source of a floating one, else that of each leg. */
export interface OutputChannel {
  signal: string
  drive: 'floating' | 'symmetric' | 'impedance-balanced' | 'single-ended'
  hot: Contact
  cold?: Contact
  ohm: number
}

/** Power that a thing wants over its contacts: at least so many volts at so much current, from contacts to ground. */
export interface PowerNeed {
  name: string
  contacts: readonly Contact[]
  leastVolts: number
  usualVolts: number
  usualAmperes: number
}

export interface OutputPort extends Half {
  name: string
  channels: readonly OutputChannel[]
  ground: readonly Contact[]
  needs?: readonly PowerNeed[]
  /** DC that it bears on its contacts, volts. */
  bearsVolts?: number
}

export interface InputChannel {
  id: string
  hot: Contact
  /** The other leg of a differential input. */
  cold?: Contact
  ohm: number
  /** Of each leg to ground, for a differential input. */
  commonModeOhm?: number
  farad?: number
}

/** DC that an input gives out, through a resistance, on contacts of its own. */
export interface Supply {
  name: string
  volts: number
  ohm: number
  contacts: readonly Contact[]
}

export interface InputPort extends Half {
  name: string
  channels: readonly InputChannel[]
  ground: readonly Contact[]
  supplies?: readonly Supply[]
}

/** A contact of an end of a piece, or a node inside it. */
export type Place = { end: number; contact: Contact } | { inside: string }

/** A cable or adapter: ends, and what lies between them. End 0 is towards the source. */
export interface Piece {
  id: string
  name: string
  ends: readonly Half[]
  wires: readonly (readonly [Place, Place])[]
  parts?: readonly (
    | { kind: 'resistor'; from: Place; to: Place; ohm: number }
    | { kind: 'capacitor'; from: Place; to: Place; farad: number }
    | {
        kind: 'transformer'
        first: readonly [Place, Place]
        second: readonly [Place, Place]
        ratio: number
        windingOhm: number
        henry: number
      }
  )[]
  lengthM?: number
  /** Between each conductor and ground, farad per metre. */
  faradPerM?: number
}

/** A link as it is plugged: an output, pieces in a row, inputs at the ends of the last. */
export interface PluggedLink {
  output: OutputPort
  pieces: readonly Piece[]
  inputs: readonly InputPort[]
}

/** One way the plugs of a link may touch: a mating for each joint, from the source on. */
export interface Variant {
  netlist: Netlist
  matings: { at: string; pairs: Mating }[]
}

const nodeOf = (where: string, contact: Contact): NodeName => `${where}/${contact}`
export const outputNode = (contact: Contact): NodeName => nodeOf('output', contact)
export const inputNode = (index: number, contact: Contact): NodeName => nodeOf(`input ${index}`, contact)
const placeNode = (piece: number, place: Place): NodeName =>
  'inside' in place
    ? `piece ${piece}:${place.inside}`
    : nodeOf(`piece ${piece} end ${place.end}`, place.contact)

/** Ground of the sender, which only the link ties to that of the receiver. */
export const senderGround: NodeName = 'sender ground'

/** A mismatch of plugs in a row: they do not go into each other. */
export interface Misfit {
  at: string
  one: Half
  other: Half
}

/** Joints of a link, or the first that does not go together. */
function joints(link: PluggedLink): { list: Joint[] } | { misfit: Misfit } {
  const list: Joint[] = []
  let before: { half: Half; node: (contact: Contact) => NodeName; name: string } = {
    half: link.output,
    node: outputNode,
    name: link.output.name,
  }
  const join = (half: Half, node: (contact: Contact) => NodeName, name: string): Misfit | undefined => {
    const at = `${before.name} into ${name}`
    if (!fits(before.half, half)) return { at, one: before.half, other: half }
    const plugFirst = before.half.gender === 'plug'
    list.push({
      at,
      plug: plugFirst ? before.half.shape : half.shape,
      socket: plugFirst ? half.shape : before.half.shape,
      plugNode: plugFirst ? before.node : node,
      socketNode: plugFirst ? node : before.node,
    })
    return undefined
  }
  for (const [index, piece] of link.pieces.entries()) {
    const misfit = join(piece.ends[0]!, (contact) => nodeOf(`piece ${index} end 0`, contact), piece.name)
    if (misfit) return { misfit }
    before = {
      half: piece.ends[1]!,
      node: (contact) => nodeOf(`piece ${index} end 1`, contact),
      name: piece.name,
    }
  }
  for (const [index, input] of link.inputs.entries()) {
    if (index > 0) {
      const last = link.pieces.length - 1
      const end = link.pieces[last]?.ends[index + 1]
      if (!end) return { misfit: { at: `a second end for ${input.name}`, one: before.half, other: input } }
      before = {
        half: end,
        node: (contact) => nodeOf(`piece ${last} end ${index + 1}`, contact),
        name: link.pieces[last]!.name,
      }
    }
    const misfit = join(input, (contact) => inputNode(index, contact), input.name)
    if (misfit) return { misfit }
  }
  return { list }
}

interface Joint {
  at: string
  plug: Shape
  socket: Shape
  plugNode: (contact: Contact) => NodeName
  socketNode: (contact: Contact) => NodeName
}

/** Every way the link may touch, as networks; or the plugs that do not fit. */
export function variantsOf(link: PluggedLink): { variants: Variant[] } | { misfit: Misfit } {
  const found = joints(link)
  if ('misfit' in found) return found
  const fixed = [
    ...outputParts(link.output),
    ...link.pieces.flatMap(pieceParts),
    ...link.inputs.flatMap(inputParts),
  ]
  let variants: Variant[] = [{ netlist: fixed, matings: [] }]
  for (const joint of found.list)
    variants = variants.flatMap((variant) =>
      matings(joint.plug, joint.socket).map((pairs) => ({
        matings: [...variant.matings, { at: joint.at, pairs }],
        netlist: [
          ...variant.netlist,
          ...pairs.map(([plug, socket], index): Part => ({
            kind: 'wire',
            id: `${joint.at} ${index}`,
            from: joint.plugNode(plug),
            to: joint.socketNode(socket),
          })),
        ],
      })),
    )
  return { variants }
}

function outputParts(output: OutputPort): Part[] {
  const parts: Part[] = output.ground.map((contact) =>
    wire(`output ground ${contact}`, outputNode(contact), senderGround),
  )
  for (const { signal, drive, hot, cold, ohm } of output.channels) {
    // what takes its power over a contact lets sound out through a capacitor, or it would short its own supply
    const powered = drive === 'single-ended' && output.needs?.some(({ contacts }) => contacts.includes(hot))
    const hotNode = powered ? `output:${hot}` : outputNode(hot)
    if (powered)
      parts.push({
        kind: 'capacitor',
        id: `${signal} out`,
        from: outputNode(hot),
        to: hotNode,
        farad: 100e-6,
      })
    const coldNode = cold === undefined ? senderGround : outputNode(cold)
    const source = (id: string, from: NodeName, to: NodeName, volts: number): Part => ({
      kind: 'source',
      id: `${signal} ${id}`,
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
        parts.push({ kind: 'resistor', id: `${signal} cold`, from: coldNode, to: senderGround, ohm })
    }
  }
  for (const need of output.needs ?? [])
    for (const contact of need.contacts)
      parts.push({
        kind: 'resistor',
        id: `${need.name} ${contact}`,
        from: outputNode(contact),
        to: senderGround,
        // each contact draws its share
        ohm: (need.usualVolts / need.usualAmperes) * need.contacts.length,
      })
  return parts
}

function pieceParts(piece: Piece, index: number): Part[] {
  const at = (place: Place) => placeNode(index, place)
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
    else parts.push({ ...part, id, from: at(part.from), to: at(part.to) })
  }
  const farad = (piece.faradPerM ?? 0) * (piece.lengthM ?? 0)
  if (farad > 0)
    for (const contact of contactsOf[piece.ends[0]!.shape])
      parts.push({
        kind: 'capacitor',
        id: `${piece.id} ${index} ${contact}`,
        from: at({ end: 0, contact }),
        to: ground,
        farad,
      })
  return parts
}

function inputParts(input: InputPort, index: number): Part[] {
  const at = (contact: Contact) => inputNode(index, contact)
  const parts: Part[] = input.ground.map((contact) =>
    wire(`input ${index} ground ${contact}`, at(contact), ground),
  )
  const resistor = (id: string, from: NodeName, to: NodeName, ohm: number): Part => ({
    kind: 'resistor',
    id: `input ${index} ${id}`,
    from,
    to,
    ohm,
  })
  for (const channel of input.channels) {
    const cold = channel.cold === undefined ? ground : at(channel.cold)
    if (Number.isFinite(channel.ohm)) parts.push(resistor(channel.id, at(channel.hot), cold, channel.ohm))
    if (channel.cold !== undefined && channel.commonModeOhm !== undefined)
      parts.push(
        resistor(`${channel.id} hot leg`, at(channel.hot), ground, channel.commonModeOhm),
        resistor(`${channel.id} cold leg`, cold, ground, channel.commonModeOhm),
      )
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
      parts.push({ kind: 'source', id: `${name} ${contact}`, from: at(contact), to: ground, volts, ohm })
  return parts
}

const wire = (id: string, from: NodeName, to: NodeName): Part => ({ kind: 'wire', id, from, to })
