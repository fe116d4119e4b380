import type { Gear, Port, Shelf } from './gear'
import type { Box, Link, Patch, Piece } from './patch'
import { freeName } from './text'

/*
 * What a checked patch surely holds. Its parts and links name each other and things of the shelf by id; checkPatch and the
 * edits see to it that every such id is there, so one that is not is a mistake of ours and throws.
 */

/** A value that must be there. @throws Error that says what is missing */
export function known<Value>(value: Value | undefined, what: string): Value {
  if (value === undefined) throw new Error(`Missing: ${what}.`)
  return value
}

export const boxOf = ({ boxes }: Pick<Patch, 'boxes'>, id: string): Box =>
  known(
    boxes.find((box) => box.id === id),
    `box ${id}`,
  )

/** The name that a further box of a thing needs where another goes by the name of the thing; undefined where none does. */
export function nameOfFurther({ boxes }: Pick<Patch, 'boxes'>, { id, name }: Gear): string | undefined {
  const taken = boxes.flatMap((box) => box.name ?? (box.gear === id ? name : []))
  return taken.includes(name) ? freeName(name, taken) : undefined
}

export const linkOf = ({ links }: Pick<Patch, 'links'>, id: string): Link =>
  known(
    links.find((link) => link.id === id),
    `link ${id}`,
  )

/** @param shelf the shelf of the patch, its own gear included (shelfFor) */
export const gearOf = (shelf: Shelf, id: string): Gear => known(shelf.get(id), `gear ${id}`)

export const portOf = ({ id: gear, ports }: Gear, id: string): Port =>
  known(
    ports.find((port) => port.id === id),
    `port ${id} of ${gear}`,
  )

/** A socket of a box in a patch: the box, what it is, and the port. */
export interface LinkEnd {
  box: Box
  /** The name it goes by in this patch. */
  boxName: string
  gear: Gear
  port: Port
}

/** The box and port at one end of a link. */
export function endOf(patch: Pick<Patch, 'boxes'>, shelf: Shelf, at: Link['from']): LinkEnd {
  const box = boxOf(patch, at.box)
  const gear = gearOf(shelf, box.gear)
  return { box, boxName: box.name ?? gear.name, gear, port: portOf(gear, at.port) }
}

/** Name of a part: its own, or that of its gear. */
export const partNameOf = (part: Box | Piece, shelf: Shelf): string =>
  ('name' in part ? part.name : undefined) ?? gearOf(shelf, part.gear).name

/** Cables and adapters of all links. */
export const piecesOf = ({ links }: Pick<Patch, 'links'>): Piece[] => links.flatMap(({ pieces }) => pieces)

/** Boxes and pieces of links. */
export const partsOf = (patch: Pick<Patch, 'boxes' | 'links'>): (Box | Piece)[] => [
  ...patch.boxes,
  ...piecesOf(patch),
]

/** Of a shelf, the things that a patch names. */
export const usedOf = (patch: Pick<Patch, 'boxes' | 'links'>, shelf: Shelf): Shelf =>
  new Map(
    partsOf(patch).flatMap(({ gear }) => {
      const thing = shelf.get(gear)
      return thing ? [[gear, thing] as const] : []
    }),
  )

/** Where a patch has each thing of the shelf, one that it carries itself left out: a box by its name, a piece by what it joins. */
export function rolesIn({ boxes, links, gear: own }: Patch): { gear: string; role: string }[] {
  const named = (id: string) => boxes.find((box) => box.id === id)?.name ?? id
  return [
    ...boxes.map(({ gear, id }) => ({ gear, role: named(id) })),
    ...links.flatMap(({ pieces, from, to }) =>
      pieces.map(({ gear }) => ({ gear, role: `between ${named(from.box)} and ${named(to.box)}` })),
    ),
  ].filter(({ gear }) => !own.some(({ id }) => id === gear))
}

/** The last of a list that has one. */
export const lastOf = <Item>(list: readonly Item[]): Item => known(list.at(-1), 'the last of an empty list')

/** A box and all that its links lead on to, by id. */
export function boxesAfter({ links }: Pick<Patch, 'links'>, box: string): ReadonlySet<string> {
  const met = new Set([box])
  // a set grows while it is walked
  for (const each of met) for (const { from, to } of links) if (from.box === each) met.add(to.box)
  return met
}
