import { type Gear, isPiece, type Link, type Patch, type Shelf, shelfFor } from '../model'
import { fits } from './contacts'
import { type LinkFinding, type LinkReport, reportOf } from './findings'
import { pieceOfGear, pluggedLink } from './from-patch'
import type { Piece } from './link'

/** A row of cables and adapters that joins an output to an input, and what comes of it. */
export interface Way {
  pieces: Gear[]
  report: LinkReport
  /** Loss of what arrives best, dB. */
  lossDb: number
  /** Pieces that must be bought, and for how much. */
  missing: number
  price: number
}

interface Search {
  /** Findings of this severity and worse rule a way out. */
  refused?: readonly LinkFinding['severity'][]
  mostPieces?: number
  /** Asked now and then; when it says true the search ends with what it has. */
  cancelled?: () => boolean
}

/** A way this much longer than the shortest that works is no longer looked for. */
const longerBy = 1

/**
 * Rows of pieces from the shelf, up to four, whose circuit has no finding that is ruled out. Ranked by what is
 * owned, then by loss in whole decibels, then price, then number of pieces. Shorter rows are tried first; when some
 * work, only rows of one piece more are still tried.
 */
export function findWays(
  patch: Patch,
  link: Link,
  commonShelf: Shelf,
  { refused = ['dead', 'harmful', 'degraded'], mostPieces = 4, cancelled = () => false }: Search = {},
): Way[] {
  const bare = pluggedLink(patch, { ...link, through: [] }, commonShelf)
  if (!bare) return []
  const pieces = [...shelfFor(patch, commonShelf).values()]
    .filter(isPiece)
    .flatMap((gear): { gear: Gear; piece: Piece }[] => {
      const piece = pieceOfGear(gear.id, gear, {})
      return piece ? [{ gear, piece }] : []
    })
  const [input] = bare.inputs
  const ways: Way[] = []
  let limit = mostPieces
  let rows: { gear: Gear; piece: Piece }[][] = [[]]
  for (let length = 0; length <= limit; length++) {
    for (const row of rows) {
      if (cancelled()) return ranked(ways)
      const end = row.at(-1)?.piece.ends[1] ?? bare.output
      if (!fits(end, input!)) continue
      const report = reportOf({ ...bare, pieces: row.map(({ piece }) => piece) })
      if (report.findings.some(({ severity }) => refused.includes(severity))) continue
      ways.push(
        wayOf(
          row.map(({ gear }) => gear),
          report,
        ),
      )
      limit = Math.min(limit, length + longerBy)
    }
    rows = rows.flatMap((row) => {
      const end = row.at(-1)?.piece.ends[1] ?? bare.output
      // the same thing twice in a row is never better than once
      return pieces
        .filter(
          ({ gear, piece }) => fits(end, piece.ends[0]!) && !row.some((each) => each.gear.id === gear.id),
        )
        .map((next) => [...row, next])
    })
  }
  return ranked(ways)
}

function wayOf(pieces: Gear[], report: LinkReport): Way {
  const heard = report.variants[0]!.facts.reaches.map(({ db }) => db)
  const bought = pieces.filter(({ owned }) => owned === 0)
  return {
    pieces,
    report,
    lossDb: -Math.max(...heard),
    missing: bought.length,
    price: bought.reduce((sum, { price }) => sum + (price ?? 0), 0),
  }
}

const ranked = (ways: Way[]): Way[] =>
  ways.sort(
    (one, other) =>
      one.missing - other.missing ||
      Math.round(one.lossDb) - Math.round(other.lossDb) ||
      one.price - other.price ||
      one.pieces.length - other.pieces.length,
  )
