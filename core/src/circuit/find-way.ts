import type { Severity } from '../findings'
import {
  contactsOf,
  type Gear,
  isPiece,
  isPluggable,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
  boxOf,
  gearOf,
  priceOf,
  usesIn,
} from '../model'
import { fits, type Half } from './contacts'
import { type LinkReport, reportOf } from './findings'
import { pluggedLink } from './from-patch'
import { type Piece, type PluggedLink, type Tap, tapsOf } from './link'
import { pieceOfGear } from './pieces'
import { isInLoss, type LaidPiece, ranked, type Way } from './ways'

export interface WaySearch {
  /** Findings of these severities rule a way out. Left out: even a degraded one, unless no way is better. */
  refused?: readonly Severity[]
  mostPieces?: number
  /** A supply that is missing rules nothing out: it can be switched on. */
  suppliesMayBeOff?: boolean
  /** Also over the other free sockets of both boxes. */
  otherPorts?: boolean
  /** Polled during the search; returning true ends it with the ways found so far. */
  cancelled?: () => boolean
  /** Called for each way as it is found. A later, better way may keep it out of the answers. */
  found?: (way: Way) => void
}

/** Ways may be this many pieces longer than the shortest that works. */
const longerBy = 1

/**
 * Rows of pieces from the shelf, up to four, whose circuit has no finding that is ruled out. Ranked by what is
 * owned, then by loss in whole decibels, then price, then number of pieces. Shorter rows are tried first; when some
 * work, only rows of one piece more are still tried. What shares a splitter with the link stays there and counts.
 */
export function findWays(patch: Patch, link: Link, commonShelf: Shelf, search: WaySearch = {}): Way[] {
  if (search.refused) return waysByAllEnds(patch, link, commonShelf, search)
  const clean = waysByAllEnds(patch, link, commonShelf, {
    ...search,
    refused: ['dead', 'harmful', 'degraded'],
  })
  // a lead that loses level or one channel is better than none
  return clean.length || search.cancelled?.()
    ? withoutIdleLoads(clean)
    : waysByAllEnds(patch, link, commonShelf, { ...search, refused: ['dead', 'harmful'] })
}

/** Ways that load an output only as far as they lose less than any that does not. */
function withoutIdleLoads(ways: readonly Way[]): Way[] {
  const isLoaded = ({ report }: Way) => report.findings.some((each) => isInLoss(each, report))
  const least = Math.min(...ways.filter((way) => !isLoaded(way)).map(({ lossDb }) => lossDb))
  return ways.filter((way) => !isLoaded(way) || Math.round(way.lossDb) < Math.round(least))
}

function waysByAllEnds(patch: Patch, link: Link, commonShelf: Shelf, search: WaySearch): Way[] {
  const ways: Way[] = []
  for (const ends of search.otherPorts ? otherEnds(patch, link, commonShelf) : [link])
    ways.push(...waysBetween(patch, { ...link, ...ends }, commonShelf, search))
  return ranked(ways)
}

interface Candidate extends LaidPiece {
  piece: Piece
  /** Two of these in a row are one longer one. */
  straight: boolean
}

function waysBetween(
  patch: Patch,
  link: Link,
  commonShelf: Shelf,
  { refused = [], mostPieces = 4, suppliesMayBeOff, cancelled = () => false, found }: WaySearch,
): Way[] {
  const isRefused = (report: LinkReport) =>
    report.findings.some(
      (each) =>
        refused.includes(each.severity) &&
        !isInLoss(each, report) &&
        !(suppliesMayBeOff && each.code === 'supply missing'),
    )
  const emptied = { ...link, pieces: [] }
  const others = link.branch || link.joins ? patch.links.filter(({ id }) => id !== link.id) : []
  const bare = pluggedLink({ ...patch, links: [...others, emptied] }, emptied, commonShelf)
  if (!bare) return []
  const all = candidatesOn(shelfFor(patch, commonShelf))
  const inputTap = tapsOf(bare).inputs[0]!
  // a joining link ends in the existing lead: the row comes before that
  const lead = link.joins && inputTap !== 'output' ? inputTap.piece : undefined
  const input: Half = lead === undefined ? bare.inputs[0]! : bare.pieces[lead]!.ends[0]!
  const tap = lead === undefined ? inputTap : tapsOf(bare).pieces[lead]!
  const start: Half = tap === 'output' ? bare.output : bare.pieces[tap.piece]!.ends[tap.end]!
  const away = piecesNeeded(all, input, mostPieces)
  const ways: Way[] = []
  let limit = mostPieces
  let rows: Candidate[][] = [[]]
  for (let length = 0; length <= limit; length++) {
    for (const row of rows) {
      if (cancelled()) return ways
      const end = row.at(-1)?.piece.ends[1] ?? start
      if (!fits(end, input)) continue
      const report = reportOf(withRow(bare, row, tap, lead))
      if (isRefused(report)) continue
      const way = wayOf(link, row, report)
      ways.push(way)
      found?.(way)
      limit = Math.min(limit, length + longerBy)
    }
    if (length === limit) break
    rows = rows.flatMap((row) => {
      const last = row.at(-1)
      const end = last?.piece.ends[1] ?? start
      return all
        .filter(
          (next) =>
            fits(end, next.piece.ends[0]!) &&
            length + 1 + away(next.piece.ends[1]!) <= limit &&
            !(last?.straight && next.straight) &&
            // the same thing twice in a row is never better than once
            !row.some((each) => each.gear.id === next.gear.id),
        )
        .map((next) => [...row, next])
    })
  }
  return ways
}

/** Everything on the shelf that can be part of a link, in each direction that makes a difference. */
const candidatesOn = (shelf: Shelf): Candidate[] => [...shelf.values()].flatMap(candidatesOf)

/** Made once of each thing, for a shelf is looked through link by link; a thing is replaced, never changed. */
const laid = new WeakMap<Gear, readonly Candidate[]>()
function candidatesOf(gear: Gear): readonly Candidate[] {
  const made = laid.get(gear) ?? (isPiece(gear) ? [false, true] : []).flatMap((each) => laidAs(gear, each))
  laid.set(gear, made)
  return made
}

function laidAs(gear: Gear, reversed: boolean): Candidate[] {
  const piece = pieceOfGear(gear.id, gear, {}, reversed)
  if (!piece) return []
  const [one, other] = piece.ends
  const same = one!.shape === other!.shape
  if (reversed && same && one!.gender === other!.gender && isStraight(piece)) return []
  return [{ gear, reversed, piece, straight: same && isStraight(piece) }]
}

/** Wires from each contact to the same one, and nothing else. */
function isStraight({ ends, wires, parts = [] }: Piece): boolean {
  const [one, other] = ends
  return (
    ends.length === 2 &&
    parts.every((part) => part.kind === 'resistor' && part.ohm < 10) &&
    one!.shape === other!.shape &&
    wires.length === contactsOf[one!.shape].length &&
    wires.every(([from, to]) => contactName(from) === contactName(to))
  )
}
const contactName = (place: Piece['wires'][number][number]): string =>
  'contact' in place ? place.contact : place.inside.split(' ').slice(0, -1).join(' ')

/** Least number of further pieces between a half and the input; more than `most` means never. */
function piecesNeeded(all: readonly Candidate[], input: Half, most: number): (half: Half) => number {
  const key = ({ shape, gender }: Half) => `${shape} ${gender}`
  const known = new Map<string, number>()
  const halves = new Map(all.flatMap(({ piece }) => piece.ends.slice(0, 2).map((half) => [key(half), half])))
  for (const half of halves.values()) if (fits(half, input)) known.set(key(half), 0)
  for (let count = 1; count <= most; count++)
    for (const half of halves.values())
      if (
        !known.has(key(half)) &&
        all.some(({ piece }) => fits(half, piece.ends[0]!) && known.get(key(piece.ends[1]!)) === count - 1)
      )
        known.set(key(half), count)
  return (half) => known.get(key(half)) ?? most + 1
}

/** The bare link with a row of pieces inserted at a tap, in front of its input or of the lead that it joins. */
function withRow(
  bare: PluggedLink,
  row: readonly Candidate[],
  at: Tap,
  lead: number | undefined,
): PluggedLink {
  const taps = tapsOf(bare)
  const first = bare.pieces.length
  const tapOf = (index: number): Tap => (index === 0 ? at : { piece: first + index - 1, end: 1 })
  const pieces = taps.pieces.map((tap, index) => (index === lead ? tapOf(row.length) : tap))
  const inputs = taps.inputs.map((tap, index) =>
    index === 0 && lead === undefined ? tapOf(row.length) : tap,
  )
  return {
    ...bare,
    pieces: [...bare.pieces, ...row.map(({ piece }) => piece)],
    taps: { pieces: [...pieces, ...row.map((_, index) => tapOf(index))], inputs },
  }
}

/** The other pairs of free sockets that the two boxes of a link could be joined by. */
function otherEnds(
  patch: Patch,
  link: Link,
  commonShelf: Shelf,
): Pick<Link, 'from' | 'to' | 'branch' | 'joins'>[] {
  const shelf = shelfFor(patch, commonShelf)
  const ports = (end: Link['from'], direction: 'in' | 'out') => {
    const box = boxOf(patch, end.box)
    return gearOf(shelf, box.gear)
      .ports.filter(
        (port) =>
          port.direction === direction &&
          isPluggable(port.connector) &&
          (port.id === end.port ||
            !patch.links.some(
              (each) =>
                each.id !== link.id &&
                [each.from, each.to].some(
                  (taken) =>
                    taken.box === end.box && (taken.port === port.id || taken.port === port.socketOf),
                ),
            )),
      )
      .map((port) => ({ box: end.box, port: port.id }))
  }
  return ports(link.from, 'out').flatMap((from) =>
    ports(link.to, 'in').flatMap((to) =>
      from.port === link.from.port && to.port === link.to.port
        ? []
        : [{ from, to, branch: undefined, joins: undefined }],
    ),
  )
}

function wayOf(link: Link, row: readonly Candidate[], report: LinkReport): Way {
  const heard = report.variants[0]!.facts.reaches.map(({ db }) => db)
  const bought = row.filter(({ gear }) => gear.owned === 0)
  return {
    from: link.from,
    to: link.to,
    pieces: row.map(({ gear, reversed }) => ({ gear, reversed })),
    report,
    lossDb: -Math.max(...heard),
    missing: bought.length,
    price: priceOf(bought.map(({ gear }) => gear)),
  }
}

/** Ways that do no harm, the best first. A supply that is off is no hindrance: it can be switched on. */
export const harmlessWays = (patch: Patch, link: Link, shelf: Shelf, most: number): Way[] =>
  findWays({ ...patch, links: [...patch.links.filter(({ id }) => id !== link.id), link] }, link, shelf, {
    refused: ['dead', 'harmful'],
    suppliesMayBeOff: true,
    mostPieces: most,
  })

/** The best of them. Owned gear ranks first, so the rest of the shelf is searched only if nothing owned works. */
export function bestHarmlessWay(patch: Patch, link: Link, shelf: Shelf, most: number): Way | undefined {
  const used = usesIn(patch)
  const owned = new Map(
    [...shelf].filter(([id, thing]) => thing.owned > 0 || !isPiece(thing) || used.has(id)),
  )
  const [best] = harmlessWays(patch, link, owned, most)
  return best?.missing === 0 ? best : harmlessWays(patch, link, shelf, most)[0]
}
