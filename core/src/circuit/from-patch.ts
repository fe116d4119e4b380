import {
  type Connector,
  type Gear,
  type Link,
  type Passive,
  type Patch,
  type Port,
  type Position,
  type Rung,
  type Shelf,
  shelfFor,
  valueOf,
} from '../model'
import { type Contact, contactsOf, fits, type Half, type Shape } from './contacts'
import type { InputPort, OutputPort, Piece, Place, PluggedLink, Tap } from './link'

/** Ordinary impedances where a figure is unknown, ohm. */
const typicalOhm = { out: 150, in: 5000 }

export const isShape = (connector: Connector): connector is Shape & Connector => connector in contactsOf

/** Contacts that carry a port's channels, where the port does not say otherwise: the custom of its connector. */
interface Layout {
  left: Contact
  right?: Contact
  cold?: Contact
  ground: readonly Contact[]
}

function layoutOf(port: Port, shape: Shape): Layout {
  if (port.contacts) return port.contacts
  if (shape === 'xlr-3' || shape === 'ta-3') return { left: '2', cold: '3', ground: ['1'] }
  if (shape === 'usb-c')
    return port.digital
      ? { left: 'data left', right: 'data right', ground: ['ground'] }
      : { left: 'left', right: 'right', ground: ['ground'] }
  if (contactsOf[shape].length === 2) return { left: 'tip', ground: ['sleeve'] }
  return port.balanced
    ? { left: 'tip', cold: 'ring', ground: ['sleeve'] }
    : { left: 'tip', right: 'ring', ground: ['sleeve'] }
}

/** A plug hangs on a lead, a socket sits in a wall; XLR has its own rule: what gives sound has the pins. */
function genderOf(port: Port, gear: Gear): Half['gender'] {
  if (port.gender) return port.gender
  if (port.connector === 'xlr-3' || port.connector === 'ta-3') return port.way === 'out' ? 'plug' : 'socket'
  return gear.kind === 'microphone' || gear.kind === 'headphones' ? 'plug' : 'socket'
}

/** The plug or socket of a port; undefined where it has none. */
export const halfOf = (port: Port, gear: Gear): Half | undefined =>
  isShape(port.connector) ? { shape: port.connector, gender: genderOf(port, gear) } : undefined

/** Both sides of an output are driven by the same strips: one signal, twice. */
function isDualMono(port: Port, gear: Gear): boolean {
  const driving = (channel: string) =>
    gear.strips
      .filter(({ to }) => to.some((end) => 'port' in end && end.port === port.id && end.channel === channel))
      .map(({ id }) => id)
      .join()
  return driving('left') === driving('right')
}

function outputOf(port: Port, gear: Gear, name: string, shape: Shape): OutputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? 1 : valueOf(port.impedanceOhm, typicalOhm.out)
  const behind = port.digital && layout.cold ? ohm / 2 : ohm
  const drive =
    port.drive ??
    ((port.balanced || port.digital) && layout.cold
      ? gear.kind === 'microphone'
        ? 'floating'
        : 'symmetric'
      : 'single-ended')
  const cold = drive === 'single-ended' ? undefined : layout.cold
  // on three pins one stream carries both channels
  const one = port.digital && layout.cold !== undefined
  const two = !one && port.channels === 2 && layout.right !== undefined && !isDualMono(port, gear)
  const channels = [
    // a stream's impedance is that of both legs together
    { signal: two ? 'left' : name, drive, hot: layout.left, cold, ohm: behind },
    ...(port.channels === 2 && layout.right
      ? [{ signal: two ? 'right' : name, drive, hot: layout.right, ohm }]
      : []),
  ]
  return {
    name,
    shape,
    gender: genderOf(port, gear),
    channels,
    ground: layout.ground,
    needs: port.needs,
    bearsVolts: port.bearsVolts,
    digital: port.digital,
  }
}

function inputOf(
  port: Port,
  gear: Gear,
  name: string,
  shape: Shape,
  at: (control: string) => Position | undefined,
): InputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? Infinity : valueOf(port.impedanceOhm, typicalOhm.in)
  const farad = port.capacitancePf === undefined ? undefined : port.capacitancePf * 1e-12
  const commonModeOhm = port.commonModeOhm === undefined ? undefined : valueOf(port.commonModeOhm, 50_000)
  const supplies = (port.supplies ?? [])
    .filter(({ when }) => !when || when.is.includes(`${at(when.control)}`))
    .map(({ when: _, ...supply }) => supply)
  const channels =
    port.channels === 2 && layout.right
      ? [
          { id: 'left', hot: layout.left, ohm, farad },
          { id: 'right', hot: layout.right, ohm, farad },
        ]
      : [
          {
            id: 'one',
            hot: layout.left,
            cold: port.balanced || port.digital ? layout.cold : undefined,
            ohm,
            commonModeOhm,
            farad,
          },
        ]
  // an unbalanced input on three pins has its cold leg on ground
  const tied = !port.balanced && !port.digital && layout.cold ? [layout.cold] : []
  return {
    name,
    shape,
    gender: genderOf(port, gear),
    channels,
    ground: [...layout.ground, ...tied],
    supplies,
    bearsVolts: port.bearsVolts,
    digital: port.digital,
  }
}

function rungsOf(passive: Passive, at: (control: string) => Position | undefined): Rung[] {
  return Array.isArray(passive.ladder)
    ? passive.ladder
    : (passive.ladder.at[`${at(passive.ladder.control)}`] ?? [])
}

/** A cable, adapter or pad as wires and resistances. Its ladder lies in every conductor that carries signal. */
function pieceOf(
  id: string,
  gear: Gear,
  passive: Passive,
  shapes: readonly [Shape, Shape],
  at: (control: string) => Position | undefined,
): Piece {
  const [from, to] = shapes
  const gender = (end: 0 | 1): Half['gender'] =>
    (end === 0 ? passive.fromGender : passive.toGender) ??
    (pinned(shapes[end]) && end === 0 ? 'socket' : 'plug')
  const pairs: (readonly [Contact, Contact])[] =
    passive.wires ?? contactsOf[from].map((contact) => [contact, contact] as const)
  const xlr = pinned(from) && pinned(to)
  const grounds = pinned(from) ? ['1'] : from === 'usb-c' ? ['ground'] : ['sleeve']
  const rungs = rungsOf(passive, at)
  const piece: Piece = {
    id,
    name: gear.name,
    ends: [
      { shape: from, gender: gender(0) },
      { shape: to, gender: gender(1) },
      ...(passive.more ?? []).flatMap(({ connector, gender: stated }) =>
        isShape(connector) ? [{ shape: connector, gender: stated ?? 'plug' } as const] : [],
      ),
    ],
    wires: [],
    lengthM: passive.lengthM,
    faradPerM: passive.picofaradPerM === undefined ? undefined : passive.picofaradPerM * 1e-12,
  }
  const wires: (readonly [Place, Place])[] = []
  const parts: NonNullable<Piece['parts']>[number][] = []
  const near = (contact: Contact): Place => ({ end: 0, contact })
  const ground: Place = near(grounds[0]!)
  const lanes = new Map<Contact, Contact[]>()
  for (const [one, other] of pairs) lanes.set(one, [...(lanes.get(one) ?? []), other])
  const live = [...lanes.keys()].filter((contact) => !grounds.includes(contact))
  for (const [contact, others] of lanes) {
    let place: Place = near(contact)
    if (live.includes(contact))
      rungs.forEach((rung, index) => {
        if ('seriesOhm' in rung) {
          const next: Place = { inside: `${contact} ${index}` }
          // a balanced pad has half in each leg
          parts.push({
            kind: 'resistor',
            from: place,
            to: next,
            ohm: xlr ? rung.seriesOhm / 2 : rung.seriesOhm,
          })
          place = next
        } else if (!xlr) parts.push({ kind: 'resistor', from: place, to: ground, ohm: rung.shuntOhm })
        else if (contact === '2')
          parts.push({ kind: 'resistor', from: place, to: { inside: `3 ${index - 1}` }, ohm: rung.shuntOhm })
      })
    for (const other of others) wires.push([place, { end: 1, contact: other }])
  }
  for (const [index, further] of (passive.more ?? []).entries())
    for (const [one, other] of further.wires) wires.push([near(one), { end: index + 2, contact: other }])
  for (const part of passive.parts ?? [])
    parts.push(part.kind === 'capacitor' ? { ...part, farad: part.microfarad * 1e-6 } : part)
  return { ...piece, wires, parts }
}

/** Connectors of three pins, of which the first is ground. */
const pinned = (shape: Shape): boolean => shape === 'xlr-3' || shape === 'ta-3'

/** A passive thing as a piece of a link, its controls as set, with its other end first when turned; undefined where it has no plugs. */
export function pieceOfGear(
  id: string,
  gear: Gear,
  settings: Record<string, Position>,
  turned = false,
): Piece | undefined {
  if (!gear.passive) return undefined
  const { from, to } = gear.passive
  if (!isShape(from) || !isShape(to)) return undefined
  const piece = pieceOf(id, gear, gear.passive, [from, to], standsAt(gear, settings))
  return turned ? turnedPiece(piece, [1, 0]) : piece
}

const standsAt = (gear: Gear, settings: Record<string, Position>) => (control: string) =>
  settings[control] ?? gear.controls.find(({ id }) => id === control)?.initial

/** Settings of a part with those that are given from outside, by `part.control`, in front. */
function settingsAt(
  part: string,
  gear: Gear,
  settings: Record<string, Position>,
  at?: (key: string) => Position | undefined,
): Record<string, Position> {
  if (!at) return settings
  return Object.fromEntries(
    gear.controls.map(({ id, initial }) => [id, at(`${part}.${id}`) ?? settings[id] ?? initial]),
  )
}

/** Both ends of a link of a patch as ports, where they have contacts. */
function endsOf(patch: Patch, link: Link, shelf: Shelf, at?: (key: string) => Position | undefined) {
  const end = (place: Link['from']) => {
    const box = patch.boxes.find(({ id }) => id === place.box)!
    const gear = shelf.get(box.gear)!
    const port = gear.ports.find(({ id }) => id === place.port)!
    return { box, gear, port, name: `${box.name ?? gear.name}, ${port.name}` }
  }
  const [from, to] = [end(link.from), end(link.to)]
  if (!isShape(from.port.connector) || !isShape(to.port.connector)) return undefined
  const stands = standsAt(to.gear, settingsAt(to.box.id, to.gear, to.box.settings, at))
  return {
    output: outputOf(from.port, from.gear, from.name, from.port.connector),
    input: inputOf(to.port, to.gear, to.name, to.port.connector, stands),
  }
}

/**
 * A link of a patch as it is plugged, with everything that hangs on the same output: its own input is the first and
 * the one asked about. Undefined where no plugs are: through the air, or wired for good.
 */
export function pluggedLink(
  patch: Patch,
  link: Link,
  commonShelf: Shelf,
  at?: (key: string) => Position | undefined,
): PluggedLink | undefined {
  const shelf = shelfFor(patch, commonShelf)
  const own = endsOf(patch, link, shelf, at)
  if (!own) return undefined
  const pieces: Piece[] = []
  const taps: { pieces: Tap[]; inputs: Tap[] } = { pieces: [], inputs: [] }
  const inputs: InputPort[] = []
  const placed = new Map<string, number>()
  /** Lays out the pieces of a link and its input; false when one of them has no plugs, or a neighbour's do not fit. */
  const lay = (each: Link, input: InputPort, start: Tap): boolean => {
    const mine = each.id === link.id
    const row: { piece: Piece; tap: Tap }[] = []
    let tap = start
    let before: Half = start === 'output' ? own.output : (pieces[start.piece]!.ends[start.end] ?? own.output)
    for (const part of each.through) {
      const thing = shelf.get(part.gear)!
      const settings = settingsAt(part.id, thing, part.settings, at)
      const piece = pieceOfGear(part.id, thing, settings, part.turned)
      if (!piece || (!mine && !fits(before, piece.ends[0]!))) return false
      row.push({ piece, tap })
      tap = { piece: pieces.length + row.length - 1, end: 1 }
      before = piece.ends[1]!
    }
    const merger = each.joins && mergingPiece(patch, each.joins, shelf, at)
    if (merger) {
      row.push({ piece: merger, tap })
      tap = { piece: pieces.length + row.length - 1, end: 1 }
      before = merger.ends[1]!
    }
    if (!mine && !fits(before, input)) return false
    for (const laid of row) {
      placed.set(laid.piece.id, pieces.length)
      taps.pieces.push(laid.tap)
      pieces.push(laid.piece)
    }
    taps.inputs.push(tap)
    inputs.push(input)
    return true
  }
  /** Other outputs on a lead with several near ends load the link with what stands behind them. */
  const restingBeside = () => {
    for (const each of patch.links) {
      const host = each.joins && placed.get(each.joins.piece)
      const other = each.id !== link.id && host !== undefined && endsOf(patch, each, shelf, at)
      if (!other || each.through.length > 0) continue
      const half = pieces[host]!.ends[each.joins!.end]
      if (!half || !fits(half, other.output)) continue
      inputs.push(atRest(other.output))
      taps.inputs.push({ piece: host, end: each.joins!.end })
    }
  }
  const turned = sharedPiece(patch, link, shelf, at)
  if (turned) {
    pieces.push(turned)
    taps.pieces.push('output')
  }
  // splitters first: a branch begins at a piece that is already laid
  const { group, branches } = hangingWith(patch, link, shelf)
  const root = branches.get(link.id)
  const start: Tap = turned ? { piece: 0, end: 1 } : 'output'
  if (!root && !lay(link, own.input, start)) return undefined
  restingBeside()
  for (const each of group) {
    if (each.id === link.id && !root) continue
    const ends = each.id === link.id ? own : endsOf(patch, each, shelf, at)
    const host = each.branch && placed.get(each.branch.piece)
    const tap: Tap = host === undefined ? 'output' : { piece: host, end: each.branch!.end }
    if (!ends || !lay(each, ends.input, tap)) {
      if (each.id === link.id) return undefined
      continue
    }
    if (each.id === link.id) {
      // what is asked about comes first
      inputs.unshift(inputs.pop()!)
      taps.inputs.unshift(taps.inputs.pop()!)
    }
  }
  return { output: own.output, pieces, inputs, taps, asked: 1 }
}

/** All links of one output, each after the one it branches from. */
function hangingWith(patch: Patch, link: Link, shelf: Shelf): { group: Link[]; branches: Map<string, Link> } {
  const siblings = patch.links.filter(
    ({ from }) => from.box === link.from.box && from.port === link.from.port,
  )
  const branches = new Map<string, Link>()
  for (const each of siblings) {
    const host = siblings.find(({ through }) => through.some(({ id }) => id === each.branch?.piece))
    if (host) branches.set(each.id, host)
  }
  const depth = (each: Link): number => {
    let count = 0
    for (let host = branches.get(each.id); host && count <= siblings.length; host = branches.get(host.id))
      count++
    return count
  }
  const whole = siblings.filter((each) => {
    const port = shelf
      .get(patch.boxes.find(({ id }) => id === each.to.box)!.gear)!
      .ports.find(({ id }) => id === each.to.port)!
    return isShape(port.connector)
  })
  return { group: whole.sort((one, other) => depth(one) - depth(other)), branches }
}

/**
 * The piece that a link out of a shared socket passes first: a splitter that another link has plugged into that
 * socket, seen from its plug to the end that the link begins at.
 */
function sharedPiece(
  patch: Patch,
  link: Link,
  shelf: Shelf,
  at?: (key: string) => Position | undefined,
): Piece | undefined {
  if (!link.branch) return undefined
  const { piece: wanted, end } = link.branch
  const host = patch.links.find(
    ({ to, through }) => to.box === link.from.box && through.some(({ id }) => id === wanted),
  )
  const found = host?.through.find(({ id }) => id === wanted)
  const thing = found && shelf.get(found.gear)
  const settings = thing && settingsAt(wanted, thing, found.settings, at)
  const piece = settings && pieceOfGear(wanted, thing, settings, found.turned)
  return piece && turnedPiece(piece, [1, end, 0])
}

/** The lead that a link ends in, seen from the end it is plugged into. */
function mergingPiece(
  patch: Patch,
  { piece: wanted, end }: NonNullable<Link['joins']>,
  shelf: Shelf,
  at?: (key: string) => Position | undefined,
): Piece | undefined {
  const found = patch.links.flatMap(({ through }) => through).find(({ id }) => id === wanted)
  const thing = found && shelf.get(found.gear)
  const settings = thing && settingsAt(wanted, thing, found.settings, at)
  const piece = settings && pieceOfGear(wanted, thing, settings, found.turned)
  return piece && turnedPiece(piece, [end, 1, 0])
}

/** An output whose own sound rests, as the load that it is to others. */
const atRest = ({ name, shape, gender, channels, ground }: OutputPort): InputPort => ({
  name,
  shape,
  gender,
  channels: channels.map(({ signal, drive, hot, cold, ohm }) =>
    drive === 'floating'
      ? { id: signal, hot, cold, ohm }
      : cold === undefined
        ? { id: signal, hot, ohm }
        : { id: signal, hot, cold, ohm: Infinity, commonModeOhm: ohm },
  ),
  ground,
  bearsVolts: 100,
})

/** The same piece with its ends in another order. */
function turnedPiece(piece: Piece, order: readonly number[]): Piece {
  const turn = (place: Place): Place =>
    'inside' in place ? place : { ...place, end: order.indexOf(place.end) }
  const pair = ([one, other]: readonly [Place, Place]) => [turn(one), turn(other)] as const
  const kept = order.concat(piece.ends.map((_, index) => index).filter((index) => !order.includes(index)))
  if (kept.length > order.length) return turnedPiece(piece, kept)
  return {
    ...piece,
    ends: order.map((index) => piece.ends[index]!),
    wires: piece.wires.map(pair),
    parts: piece.parts?.map((part) =>
      'first' in part
        ? { ...part, first: pair(part.first), second: pair(part.second) }
        : { ...part, from: turn(part.from), to: turn(part.to) },
    ),
  }
}

/** What a contact of a port is for, in words and by kind. */
export interface ContactRole {
  contact: Contact
  plug: boolean
  kind: 'signal' | 'cold' | 'ground' | 'nothing'
  role: string
}

/** Every contact of a port with what it is for: sound, ground, power given or wanted. Empty where it has none. */
export function contactRolesOf(port: Port, gear: Gear): ContactRole[] {
  const { connector } = port
  if (!isShape(connector)) return []
  const layout = layoutOf(port, connector)
  const two = port.channels === 2 && layout.right !== undefined
  return contactsOf[connector].map((contact) => {
    const power = [
      ...(port.supplies ?? []).flatMap((supply) =>
        supply.contacts.includes(contact) ? [`gives ${supply.volts} V`] : [],
      ),
      ...(port.needs ?? []).flatMap((need) =>
        need.contacts.includes(contact) ? [`wants ${need.leastVolts} V`] : [],
      ),
    ]
    const [kind, sound] =
      contact === layout.left
        ? (['signal', port.digital && !two ? 'stream' : two ? 'left' : 'sound'] as const)
        : two && contact === layout.right
          ? (['signal', 'right'] as const)
          : contact === layout.cold
            ? (['cold', 'second leg'] as const)
            : layout.ground.includes(contact)
              ? (['ground', 'ground'] as const)
              : (['nothing', power.length ? '' : 'free'] as const)
    return {
      contact,
      plug: genderOf(port, gear) === 'plug',
      kind,
      role: [sound, ...power].filter(Boolean).join(', '),
    }
  })
}
