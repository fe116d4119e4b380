import { freeName, type Gear, gearId } from '../model'

/**
 * A thing of the shelf as one's own: the same, under a name that is free and an id of its own.
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
