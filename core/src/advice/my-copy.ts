import { type Gear, partId } from '../model'

/** A thing of the shelf as one's own: the same, under a name and an id that are free. */
export function myCopyOf(thing: Gear, all: readonly Gear[]): Gear {
  const names = new Set(all.map(({ name }) => name))
  const base = `My ${thing.name.toLowerCase()}`
  let name = base
  for (let number = 2; names.has(name); number++) name = `${base} ${number}`
  const id = partId(
    `my-${thing.id}`,
    all.map((each) => each.id),
  )
  return { ...thing, id, name, owned: Math.max(1, thing.owned), copyOf: thing.id }
}

/** Whether it is a copy already: what is learnt goes into it, and no further copy is made. */
export const isMyCopy = ({ copyOf }: Gear): boolean => copyOf !== undefined
