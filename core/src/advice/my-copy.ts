import { type Gear, gearId } from '../model'

/**
 * A thing of the shelf as one's own: the same, under a name that is free and an id of its own.
 *
 * @param unique a fresh UUID
 */
export function myCopyOf(thing: Gear, all: readonly Gear[], unique: string): Gear {
  const names = new Set(all.map(({ name }) => name))
  const base = `My ${thing.name.toLowerCase()}`
  let name = base
  for (let number = 2; names.has(name); number++) name = `${base} ${number}`
  const id = gearId(`my ${thing.id}`, unique)
  return { ...thing, id, name, owned: Math.max(1, thing.owned), copyOf: thing.id }
}

/** Whether it is a copy already: what is learnt goes into it, and no further copy is made. */
export const isMyCopy = ({ copyOf }: Gear): boolean => copyOf !== undefined
