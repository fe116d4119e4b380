import { findWays, joinAt, quietEnough, type Way } from '../circuit'
import type { Edit } from '../edits'
import {
  type Connector,
  type Gear,
  isPiece,
  isPluggable,
  type Link,
  type Patch,
  type Shelf,
  shelfFor,
  idsOf,
  endOf,
} from '../model'
import { byOwned } from './by-owned'
import { newBox } from './new-box'
import { byTrouble, type Outcome, outcomeOf, type Standing, standingOf } from './outcome'
import { plugIn } from './plugging'

/** A thing that could stand at an end of the chain, how it would be plugged in, and what it would bring. */
export interface EndOffer {
  gear: Gear
  box: string
  edits: Edit[]
  /** Names of the pieces between; empty if it is plugged straight in. */
  through: string[]
  outcome: Outcome
}

export interface End {
  place: Link['from']
  direction: 'in' | 'out'
}

/** Most pieces between an end and what is offered there. */
const mostPieces = 2

/**
 * Things from the shelf that can be joined to an end of the chain, owned first. Each is reported as it is worked out:
 * the best way in, and the worst that the patch would then have to say.
 */
export function offersAtEnd(
  patch: Patch,
  end: End,
  commonShelf: Shelf,
  found: (offer: EndOffer) => void,
): void {
  const shelf = shelfFor(patch, commonShelf)
  const asked: Asked = { patch, end, shelf: commonShelf, before: standingOf(patch, commonShelf) }
  const { connector } = endOf(patch, shelf, end.place).port
  for (const gear of [...shelf.values()].filter((each) => !isPiece(each)).sort(byOwned)) {
    const [best] = gear.ports
      .filter((port) => port.direction !== end.direction && meets(connector, port.connector))
      .slice(0, mostPorts)
      .flatMap((port) => offerBy(asked, gear, port.id) ?? [])
      .sort(
        (one, other) => byTrouble(one.outcome, other.outcome) || one.through.length - other.through.length,
      )
    if (best) found(best)
  }
}

/** An end, with the state of the patch before anything is joined to it. */
interface Asked {
  patch: Patch
  end: End
  shelf: Shelf
  before: Standing
}

/** Most sockets of one thing that are tried. */
const mostPorts = 2

/** Radio and permanent wiring connect only to their own kind. */
const meets = (one: Connector, other: Connector): boolean =>
  isPluggable(one) ? isPluggable(other) : one === other

/** A thing joined by one of its ports; undefined where nothing on the shelf leads there. */
function offerBy({ patch, end, shelf, before }: Asked, gear: Gear, port: string): EndOffer | undefined {
  const { box, edits: placing } = newBox(patch, gear)
  const theirs = { box: box.id, port }
  const [from, to] = end.direction === 'out' ? [end.place, theirs] : [theirs, end.place]
  const offer = ({ pieces }: Pick<Way, 'pieces'>): EndOffer => {
    const edits = [...placing, ...plugIn(patch, shelf, from, to, pieces, [...idsOf(patch), box.id])]
    const through = pieces.map(({ gear: piece }) => piece.name)
    return { gear, box: box.id, edits, through, outcome: outcomeOf(patch, edits, shelf, before) }
  }
  if (!isPluggable(endOf(patch, shelfFor(patch, shelf), end.place).port.connector))
    return offer({ pieces: [] })
  const fed = patch.links.some((link) => link.to.box === to.box && link.to.port === to.port)
  const joins = fed ? joinAt(patch, to, shelf) : undefined
  const ways = findWays(
    { ...patch, boxes: [...patch.boxes, box] },
    { id: 'offer', from, to, pieces: [], joins },
    shelf,
    { mostPieces, refused: ['dead'] },
  )
  const [first] = ways
  if (!first) return undefined
  const plain = offer(first)
  const mustFallDb = tooHotDb(plain.outcome)
  const quieter = mustFallDb > 0 ? quietEnough(ways, first.lossDb + mustFallDb) : first
  if (!quieter || quieter === first) return plain
  const quiet = offer(quieter)
  return byTrouble(quiet.outcome, plain.outcome) < 0 ? quiet : plain
}

/** By how much the level must come down, as a line's must for a microphone input, dB; 0 where nothing is overloaded. */
function tooHotDb(outcome: Outcome): number {
  if (outcome.kind !== 'brings' || outcome.finding.code !== 'ceiling') return 0
  const { headroomDb, marginDb } = outcome.finding.figures
  return headroomDb < 0 ? marginDb - headroomDb : 0
}
