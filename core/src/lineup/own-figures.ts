import { myCopyOf } from '../advice'
import type { Edit } from '../edits'
import { type Gear, type LearntFigure, type Patch, type Shelf, shelfFor, thingsOf, lastOf } from '../model'
import type { LearntChange } from './learn'
import { valueAt, withValue } from './places'

/** Data for new records: the time, and unused ids. */
export interface Fresh {
  at: string
  id: () => string
}

/** Most learnt figures kept; the oldest go first. */
const mostLearnt = 400

/** The thing with the learnt figures and the earlier ones. It is one's own copy, created if necessary. */
export function withLearnt(
  thing: Gear,
  changes: readonly LearntChange[],
  all: readonly Gear[],
  { at, id }: Fresh,
): Gear {
  const own = thing.copyOf === undefined ? myCopyOf(thing, all, id()) : thing
  return changes.reduce(
    (gear, { places, name, source, before, after, toleranceDb }): Gear => ({
      ...withValue(gear, places, after),
      learnt: [
        ...(gear.learnt ?? []),
        {
          id: id(),
          at,
          places,
          name,
          source,
          before,
          after,
          ...(toleranceDb !== undefined && { toleranceDb }),
        },
      ].slice(-mostLearnt),
    }),
    own,
  )
}

/** The thing with the figure back that stood there before it was learnt; that is written down too. */
export function broughtBack(gear: Gear, learnt: string, { at, id }: Fresh): Gear {
  const entry = gear.learnt?.find((each) => each.id === learnt)
  if (!entry) return gear
  const { places, name, before } = entry
  const now = valueAt(gear, places[0]!)
  const back: LearntFigure = {
    id: id(),
    at,
    places,
    name,
    source: 'Brought back by hand.',
    before: now,
    after: before,
  }
  return { ...withValue(gear, places, before), learnt: [...(gear.learnt ?? []), back].slice(-mostLearnt) }
}

/** One's own copy with better figures than the scene's box. */
export interface BetterFigures {
  box: string
  boxName: string
  own: Gear
  newest: LearntFigure
}

/** Boxes of a scene of which the shelf holds a copy with figures that were learnt. */
export function betterFigures(patch: Patch, commonShelf: Shelf): BetterFigures[] {
  const shelf = shelfFor(patch, commonShelf)
  return patch.boxes.flatMap((box): BetterFigures[] => {
    const gear = shelf.get(box.gear)
    const own = thingsOf(shelf)
      .filter(({ copyOf, learnt }) => copyOf === box.gear && (learnt?.length ?? 0) > 0)
      .sort((one, other) => newestOf(other).at.localeCompare(newestOf(one).at))[0]
    return gear && own ? [{ box: box.id, boxName: box.name ?? gear.name, own, newest: newestOf(own) }] : []
  })
}

const newestOf = ({ learnt = [] }: Gear): LearntFigure => lastOf(learnt)

/** Takes better figures into a scene. */
export const betterEdit = ({ box, own }: BetterFigures): Edit => ({ kind: 'swap', part: box, gear: own.id })
