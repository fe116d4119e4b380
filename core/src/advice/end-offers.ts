import { findWays, joinAt, type Way } from '../circuit'
import type { Edit } from '../edits'
import {
  feedFor,
  type Gear,
  isPiece,
  isPluggable,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
  idsOf,
  partId,
  endOf,
} from '../model'
import { byOwned } from './by-owned'
import { byTrouble, type Outcome, outcomeOf, standingOf } from './outcome'
import { plugIn } from './plugging'
import { standsAt } from './stands-at'

/** A thing that could stand at an end of the chain, how it would be plugged in, and what it would bring. */
export interface EndOffer {
  gear: Gear
  box: string
  edits: Edit[]
  /** What lies between, by name; empty when it is plugged straight in. */
  through: string[]
  outcome: Outcome
}

export interface End {
  place: Link['from']
  direction: 'in' | 'out'
}

/** So many pieces at most between an end and what is offered there. */
const mostPieces = 2

/**
 * Things from the shelf that can be joined to an end of the chain, owned first. Each is told as it is worked out:
 * the best way in, and the worst that the patch would then have to say.
 */
export function offersAtEnd(
  patch: Patch,
  end: End,
  commonShelf: Shelf,
  found: (offer: EndOffer) => void,
): void {
  const shelf = shelfFor(patch, commonShelf)
  const before = standingOf(patch, commonShelf)
  const port = endOf(patch, shelf, end.place).port
  for (const gear of [...shelf.values()].filter((each) => !isPiece(each)).sort(byOwned)) {
    const offer = bestInto(gear)
    if (offer) found(offer)
  }

  function bestInto(gear: Gear): EndOffer | undefined {
    const used = idsOf(patch)
    const id = partId(gear.kind, used)
    const standing = standsAt(patch, gear)
    const box = {
      id,
      gear: gear.id,
      place: standing.place,
      source: feedFor(patch, gear),
      settings: {},
      locked: [],
    }
    const opposite = gear.ports.filter(
      ({ direction, connector }) =>
        direction !== end.direction &&
        (port.connector === 'radio'
          ? connector === 'radio'
          : port.connector === 'fixed'
            ? connector === 'fixed'
            : isPluggable(connector)),
    )
    const offers = opposite.slice(0, 2).flatMap(({ id: theirs }): EndOffer | [] => {
      const place = { box: id, port: theirs }
      const [from, to] = end.direction === 'out' ? [end.place, place] : [place, end.place]
      const fed = patch.links.some((link) => link.to.box === to.box && link.to.port === to.port)
      const joins = fed ? joinAt(patch, to, commonShelf) : undefined
      const ways: Pick<Way, 'pieces' | 'lossDb'>[] = isPluggable(port.connector)
        ? findWays(
            { ...patch, boxes: [...patch.boxes, box] },
            { id: 'offer', from, to, pieces: [], joins },
            commonShelf,
            { mostPieces, refused: ['dead'] },
          )
        : [{ pieces: [], lossDb: 0 }]
      const by = ({ pieces }: Pick<Way, 'pieces'>): EndOffer => {
        const edits: Edit[] = [
          { kind: 'add box', box },
          ...standing.edits,
          ...plugIn(patch, commonShelf, from, to, pieces, [...used, id]),
        ]
        const through = pieces.map(({ gear: piece }) => piece.name)
        return { gear, box: id, edits, through, outcome: outcomeOf(patch, edits, commonShelf, before) }
      }
      return leastTrouble(ways, by)
    })
    return offers.sort(
      (one, other) => byTrouble(one.outcome, other.outcome) || one.through.length - other.through.length,
    )[0]
  }
}

/** A way that is tried because one is too hot takes so much more away, dB. */
const quieterByDb = 10
const mostQuieter = 3

/** The first way; where that overloads something, as a line does a microphone input, one that brings the level down. */
function leastTrouble<Lossy extends Pick<Way, 'lossDb'>>(
  ways: readonly Lossy[],
  by: (way: Lossy) => EndOffer,
): EndOffer | [] {
  const [first] = ways
  if (!first) return []
  const offer = by(first)
  if (!overloads(offer.outcome)) return offer
  const quieter = ways
    .filter(({ lossDb }) => lossDb >= first.lossDb + quieterByDb)
    .sort((one, other) => one.lossDb - other.lossDb)
    .filter(({ lossDb }, index, all) => index === 0 || lossDb >= all[index - 1]!.lossDb + quieterByDb)
  return (
    quieter
      .slice(0, mostQuieter)
      .map(by)
      .find(({ outcome }) => byTrouble(outcome, offer.outcome) < 0) ?? offer
  )
}

const overloads = (outcome: Outcome): boolean =>
  outcome.kind === 'brings' && outcome.finding.code === 'ceiling' && outcome.finding.severity === 'harmful'
