import { z } from 'zod'
import { type Gear, hasPosition, Id, type Patch, Refusal, type Shelf, shelfFor } from '../model'
import { editKind } from './edit-kind'
import { partOf, withPart } from './parts'
import { wiringRestore } from './restore-wiring'

/** Another thing in the same place: ports are matched by direction and order, controls by id where they fit. */
export const swap = editKind(z.strictObject({ kind: z.literal('swap'), part: Id, gear: Id }), {
  apply: (patch, { part, gear }, shelf) => swapped(patch, part, gear, shelf),
  inverse: (before, _, after) => wiringRestore(before, after),
  words: ({ part, gear }, names) => `${names.part(part)} exchanged for ${names.gear(gear)}`,
})

function swapped(patch: Patch, id: string, gearId: string, shelf: Shelf): Patch {
  const all = shelfFor(patch, shelf)
  const part = partOf(patch, id)
  const before = all.get(part.gear)
  const after = all.get(gearId)
  if (!after) throw new Refusal(`This change was refused: "${gearId}" is not on the shelf.`)
  const settings = Object.fromEntries(
    Object.entries(part.settings).filter(([control, position]) =>
      after.controls.some((each) => each.id === control && hasPosition(each, position)),
    ),
  )
  const changed = withPart(patch, id, () => ({ gear: gearId, settings }))
  const portAfter = (direction: 'in' | 'out', port: string) => matchingPort(before, after, direction, port)
  return {
    ...changed,
    links: changed.links.map((link) => ({
      ...link,
      from: link.from.box === id ? { box: id, port: portAfter('out', link.from.port) } : link.from,
      to: link.to.box === id ? { box: id, port: portAfter('in', link.to.port) } : link.to,
    })),
  }
}

function matchingPort(before: Gear | undefined, after: Gear, direction: 'in' | 'out', port: string): string {
  if (after.ports.some((each) => each.id === port && each.direction === direction)) return port
  const order = (before?.ports.filter((each) => each.direction === direction) ?? []).findIndex(
    ({ id }) => id === port,
  )
  const candidates = after.ports.filter((each) => each.direction === direction)
  const found = candidates[Math.max(0, order)] ?? candidates[0]
  if (!found)
    throw new Refusal(
      `This change was refused: ${after.name} has no ${direction}put to plug the neighbouring cable into.`,
    )
  return found.id
}
