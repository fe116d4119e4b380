import {
  type Gear,
  hasContacts,
  type Link,
  type Patch,
  type Position,
  type Shelf,
  shelfFor,
  controlKey,
  endOf,
  gearOf,
  piecesOf,
} from '../model'
import { fits, type Half } from './contacts'
import type { InputPort, OutputPort, Piece, PluggedLink, Tap } from './link'
import { pieceOfGear, positionOf, turnedPiece } from './pieces'
import { inputOf, outputOf } from './ports'

/** Control positions by `part.control` that override those of the patch. */
type Given = (key: string) => Position | undefined

/** Settings of a part, overridden by those given from outside by `part.control`. */
function settingsAt(
  part: string,
  gear: Gear,
  settings: Record<string, Position>,
  at?: Given,
): Record<string, Position> {
  if (!at) return settings
  return Object.fromEntries(
    gear.controls.map(({ id, initial }) => [id, at(controlKey(part, id)) ?? settings[id] ?? initial]),
  )
}

/** Both ends of a link of a patch as ports, where they have contacts. */
function endsOf(patch: Patch, link: Link, shelf: Shelf, at?: Given) {
  const end = (place: Link['from']) => {
    const { boxName, ...all } = endOf(patch, shelf, place)
    return { ...all, name: `${boxName}, ${all.port.name}` }
  }
  const [from, to] = [end(link.from), end(link.to)]
  if (!hasContacts(from.port.connector) || !hasContacts(to.port.connector)) return undefined
  const positions = positionOf(to.gear, settingsAt(to.box.id, to.gear, to.box.settings, at))
  return {
    output: outputOf(from.port, from.gear, from.name, from.port.connector),
    input: inputOf(to.port, to.gear, to.name, to.port.connector, positions),
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
  at?: Given,
): PluggedLink | undefined {
  const shelf = shelfFor(patch, commonShelf)
  const own = endsOf(patch, link, shelf, at)
  if (!own) return undefined
  const layout = new Layout(patch, link, shelf, own.output, at)
  const shared = layout.shared()
  // splitters first: a branch begins at a piece that is already laid
  const { group, branches } = hangingWith(patch, link, shelf)
  const branchesOff = branches.has(link.id)
  if (!branchesOff && !layout.lay(link, own.input, shared ? { piece: 0, end: 1 } : 'output')) return undefined
  layout.restBeside()
  for (const each of group) {
    const isOwn = each.id === link.id
    if (isOwn && !branchesOff) continue
    const ends = isOwn ? own : endsOf(patch, each, shelf, at)
    const laid = ends && layout.lay(each, ends.input, layout.startOf(each))
    if (isOwn && !laid) return undefined
    if (isOwn) layout.bringLastToFront()
  }
  const { pieces, inputs, taps } = layout
  return { output: own.output, pieces, inputs, taps, asked: 1 }
}

/** Pieces and inputs on one output, as they are laid one link after another. */
class Layout {
  readonly pieces: Piece[] = []
  readonly inputs: InputPort[] = []
  readonly taps: { pieces: Tap[]; inputs: Tap[] } = { pieces: [], inputs: [] }
  /** Index of each piece by its id. */
  private readonly placed = new Map<string, number>()

  constructor(
    private readonly patch: Patch,
    private readonly link: Link,
    private readonly shelf: Shelf,
    private readonly output: OutputPort,
    private readonly at: Given | undefined,
  ) {}

  /** Lays the splitter of a shared socket that the link begins behind. False where it begins at the output itself. */
  shared(): boolean {
    const piece = sharedPiece(this.patch, this.link, this.shelf, this.at)
    if (!piece) return false
    this.pieces.push(piece)
    this.taps.pieces.push('output')
    return true
  }

  /** Lays the pieces of a link and its input; false when one of them has no plugs, or a neighbour's do not fit. */
  lay(each: Link, input: InputPort, start: Tap): boolean {
    const mine = each.id === this.link.id
    const row = this.rowOf(each)
    if (!row) return false
    const halves = [this.halfAt(start), ...row.map(({ ends }) => ends[1]!)]
    const fitting = [...row.map(({ ends }) => ends[0]!), input].every((half, index) =>
      fits(halves[index]!, half),
    )
    // a misfit in the link asked about is a finding, not a reason to leave it out
    if (!mine && !fitting) return false
    let tap = start
    for (const piece of row) {
      this.placed.set(piece.id, this.pieces.length)
      this.taps.pieces.push(tap)
      tap = { piece: this.pieces.length, end: 1 }
      this.pieces.push(piece)
    }
    this.taps.inputs.push(tap)
    this.inputs.push(input)
    return true
  }

  /** Where a further link begins: at the output, or at an end of a splitter that is laid. */
  startOf({ branch }: Link): Tap {
    const host = branch && this.placed.get(branch.piece)
    return branch === undefined || host === undefined ? 'output' : { piece: host, end: branch.end }
  }

  /** Other outputs on a lead with several near ends load the link with their source circuits. */
  restBeside(): void {
    for (const other of this.patch.links) {
      if (!other.joins || other.id === this.link.id || other.pieces.length > 0) continue
      const lead = this.placed.get(other.joins.piece)
      if (lead !== undefined) this.rest(other, lead, other.joins.end)
    }
    // the one whose lead this joins, when it is plugged straight into it: seen from here its end comes third
    const { joins } = this.link
    const host = joins && this.patch.links.find(({ pieces }) => pieces[0]?.id === joins.piece)
    const lead = joins && this.placed.get(joins.piece)
    if (host && lead !== undefined) this.rest(host, lead, 2)
  }

  /** Moves the link asked about to the front. */
  bringLastToFront(): void {
    const lastFirst = <Item>(list: Item[]) => list.unshift(...list.splice(-1))
    lastFirst(this.inputs)
    lastFirst(this.taps.inputs)
  }

  private rowOf(each: Link): Piece[] | undefined {
    const row = each.pieces.map((part) => {
      const thing = gearOf(this.shelf, part.gear)
      return pieceOfGear(part.id, thing, settingsAt(part.id, thing, part.settings, this.at), part.reversed)
    })
    const merger = each.joins && mergingPiece(this.patch, each.joins, this.shelf, this.at)
    const whole = [...row, ...(merger ? [merger] : [])]
    return whole.every((piece) => piece !== undefined) ? whole : undefined
  }
  private halfAt(start: Tap): Half {
    return start === 'output' ? this.output : (this.pieces[start.piece]!.ends[start.end] ?? this.output)
  }
  private rest(other: Link, lead: number, end: number): void {
    const ends = endsOf(this.patch, other, this.shelf, this.at)
    const half = this.pieces[lead]!.ends[end]
    if (!ends || !half || !fits(half, ends.output)) return
    this.inputs.push(atRest(ends.output))
    this.taps.inputs.push({ piece: lead, end })
  }
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
    const port = endOf(patch, shelf, each.to).port
    return hasContacts(port.connector)
  })
  return { group: whole.sort((one, other) => depth(one) - depth(other)), branches }
}

/**
 * The piece that a link out of a shared socket passes first: a splitter that another link has plugged into that
 * socket, seen from its plug to the end that the link begins at.
 */
function sharedPiece(patch: Patch, link: Link, shelf: Shelf, at?: Given): Piece | undefined {
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
  at?: Given,
): Piece | undefined {
  const found = piecesOf(patch).find(({ id }) => id === wanted)
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
