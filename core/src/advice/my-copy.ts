import { freeName, type Gear, gearId } from '../model'

/**
 * A copy of a shelf thing as one's own, with a new id and an unused name.
 *
 * @param unique a fresh UUID
 */
export function myCopyOf(thing: Gear, all: readonly Gear[], unique: string): Gear {
  const name = freeName(
    `My ${thing.name.toLowerCase()}`,
    all.map((each) => each.name),
  )
  const id = gearId(`my ${thing.id}`, unique)
  return { ...thing, id, name, owned: Math.max(1, thing.owned), copyOf: thing.id }
}

/** Whether it is a copy already: what is learnt goes into it, and no further copy is made. */
export const isMyCopy = ({ copyOf }: Gear): boolean => copyOf !== undefined
