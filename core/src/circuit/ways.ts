import { severities } from '../findings'
import type { Gear, Link } from '../model'
import { leakageDb } from './facts-of-sound'
import type { LinkReport } from './findings'

/** A thing laid into a link, with its other end first when reversed. */
export interface LaidPiece {
  gear: Gear
  reversed: boolean
}

/** A row of cables and adapters that joins an output to an input, with its report. */
export interface Way {
  from: Link['from']
  to: Link['to']
  pieces: LaidPiece[]
  report: LinkReport
  /** Loss of the signal that arrives best, dB. */
  lossDb: number
  /** Pieces that must be bought. */
  missing: number
  /** Their total price; undefined where one of them has no known price. */
  price: number | undefined
}

const byLoss = <Lossy extends Pick<Way, 'lossDb'>>(ways: readonly Lossy[]): Lossy[] =>
  [...ways].sort((one, other) => one.lossDb - other.lossDb)

/** The way with the least loss of at least `lossDb`; undefined where none loses as much. */
export const attenuating = <Lossy extends Pick<Way, 'lossDb'>>(
  ways: readonly Lossy[],
  lossDb: number,
): Lossy | undefined => byLoss(ways).find((way) => way.lossDb >= lossDb)

/** The same, else the one that takes most. */
export const quietEnough = <Lossy extends Pick<Way, 'lossDb'>>(
  ways: readonly Lossy[],
  lossDb: number,
): Lossy | undefined => attenuating(ways, lossDb) ?? byLoss(ways).at(-1)

/** A known high price ranks before an unknown one. */
const inOrder = (price: number | undefined): number => price ?? Number.MAX_VALUE

/** Ways in order: owned, clean, least loss, fewest pieces, cheapest. */
export const ranked = (ways: readonly Way[]): Way[] =>
  [...ways].sort(
    (one, other) =>
      one.missing - other.missing ||
      troubleOf(one) - troubleOf(other) ||
      Math.round(one.lossDb) - Math.round(other.lossDb) ||
      one.pieces.length - other.pieces.length ||
      inOrder(one.price) - inOrder(other.price),
  )

/** An extra piece that changes the level by less than this is useless, dB. */
const idleDb = 1

/**
 * Ranked ways without those that only put further pieces into a better one: a short list to choose from. Plug in socket
 * hides no lead, for boxes may stand apart.
 */
export const withoutDetours = (ways: readonly Way[]): Way[] =>
  ways.filter(
    (way, index) =>
      !ways
        .slice(0, index)
        .some(
          (better) =>
            better.pieces.length > 0 &&
            better.from.port === way.from.port &&
            better.to.port === way.to.port &&
            Math.abs(better.lossDb - way.lossDb) < idleDb &&
            passesAll(way, better),
        ),
  )

/** Whether a row has all pieces of another, in its order. */
function passesAll({ pieces }: Way, { pieces: wanted }: Way): boolean {
  let met = 0
  for (const { gear, reversed } of pieces)
    if (wanted[met]?.gear.id === gear.id && wanted[met]?.reversed === reversed) met++
  return met === wanted.length
}

/**
 * What a load takes away is counted as loss. Held against a way besides, it would make way for an attenuator, which loads
 * less and takes more. Signals that are tied together load each other: that is another matter.
 */
export function isInLoss(
  { code, severity }: LinkReport['findings'][number],
  { variants }: LinkReport,
): boolean {
  if (code !== 'overloaded output' || severity !== 'degraded') return false
  const heard = (variants[0]?.facts.reaches ?? []).filter(({ db }) => db > leakageDb)
  return new Set(heard.map(({ input, channel }) => `${input} ${channel}`)).size === heard.length
}

/** How bad the worst is that a way brings; a note is no trouble, and a supply can be switched on. */
const troubleOf = ({ report }: Way): number =>
  Math.max(
    0,
    ...report.findings.map((each) =>
      each.code === 'supply missing' || each.severity === 'note' || isInLoss(each, report)
        ? 0
        : severities.indexOf(each.severity),
    ),
  )
