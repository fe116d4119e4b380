import {
  type Gear,
  hasContacts,
  type Link,
  type Patch,
  type Position,
  type Shelf,
  shelfFor,
  controlKey,
} from '../model'
import { fits, type Half } from './contacts'
import type { InputPort, OutputPort, Piece, PluggedLink, Tap } from './link'
import { pieceOfGear, standsAt, turnedPiece } from './pieces'
import { inputOf, outputOf } from './ports'

/** Settings of a part with those that are given from outside, by `part.control`, in front. */
function settingsAt(
  part: string,
  gear: Gear,
  settings: Record<string, Position>,
  at?: (key: string) => Position | undefined,
): Record<string, Position> {
  if (!at) return settings
  return Object.fromEntries(
    gear.controls.map(({ id, initial }) => [id, at(controlKey(part, id)) ?? settings[id] ?? initial]),
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
  if (!hasContacts(from.port.connector) || !hasContacts(to.port.connector)) return undefined
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
    for (const part of each.pieces) {
      const thing = shelf.get(part.gear)!
      const settings = settingsAt(part.id, thing, part.settings, at)
      const piece = pieceOfGear(part.id, thing, settings, part.reversed)
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
    const rest = (other: Link, lead: number, end: number) => {
      const ends = endsOf(patch, other, shelf, at)
      const half = pieces[lead]!.ends[end]
      if (!ends || !half || !fits(half, ends.output)) return
      inputs.push(atRest(ends.output))
      taps.inputs.push({ piece: lead, end })
    }
    for (const other of patch.links) {
      const lead = other.joins && placed.get(other.joins.piece)
      if (other.id !== link.id && lead !== undefined && other.pieces.length === 0)
        rest(other, lead, other.joins!.end)
    }
    // the one whose lead this joins, when it is plugged straight into it: seen from here its end comes third
    const host = link.joins && patch.links.find((other) => other.pieces[0]?.id === link.joins!.piece)
    const lead = link.joins && placed.get(link.joins.piece)
    if (host && lead !== undefined) rest(host, lead, 2)
  }
  const reversed = sharedPiece(patch, link, shelf, at)
  if (reversed) {
    pieces.push(reversed)
    taps.pieces.push('output')
  }
  // splitters first: a branch begins at a piece that is already laid
  const { group, branches } = hangingWith(patch, link, shelf)
  const root = branches.get(link.id)
  const start: Tap = reversed ? { piece: 0, end: 1 } : 'output'
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
    const host = siblings.find(({ pieces }) => pieces.some(({ id }) => id === each.branch?.piece))
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
    return hasContacts(port.connector)
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
    ({ to, pieces }) => to.box === link.from.box && pieces.some(({ id }) => id === wanted),
  )
  const found = host?.pieces.find(({ id }) => id === wanted)
  const thing = found && shelf.get(found.gear)
  const settings = thing && settingsAt(wanted, thing, found.settings, at)
  const piece = settings && pieceOfGear(wanted, thing, settings, found.reversed)
  return piece && turnedPiece(piece, [1, end, 0])
}

/** The lead that a link ends in, seen from the end it is plugged into. */
function mergingPiece(
  patch: Patch,
  { piece: wanted, end }: NonNullable<Link['joins']>,
  shelf: Shelf,
  at?: (key: string) => Position | undefined,
): Piece | undefined {
  const found = patch.links.flatMap(({ pieces }) => pieces).find(({ id }) => id === wanted)
  const thing = found && shelf.get(found.gear)
  const settings = thing && settingsAt(wanted, thing, found.settings, at)
  const piece = settings && pieceOfGear(wanted, thing, settings, found.reversed)
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
  toleratesVolts: 100,
})
