import { z } from 'zod'
import { Brief, Cover } from './brief'
import { hasPosition, Position } from './control'
import type { Gear, Shelf } from './gear'
import { Box, Link, Patch, Plan } from './patch'
import { checkPatch, shelfFor } from './check-patch'
import { parse, Refusal } from './refusal'
import { restored, WiringRestore, wiringRestore } from './restore'
import { Id, Name, Note } from './text'

const PieceSchema = Link.shape.through.unwrap().element
// what a change leaves out stays as it is: defaults must not fill it in
const { places, noises, wind, note } = Brief.shape
const BriefChange = Brief.extend({
  places: places.unwrap(),
  noises: noises.unwrap(),
  wind: wind.unwrap(),
  note: note.unwrap(),
}).partial()

/** A small named change of a patch. Undo, the log, offline work and conflict reports are made of these. */
export const Edit = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('set control'), part: Id, control: Id, position: Position.nullable() }),
  z.strictObject({ kind: z.literal('lock control'), part: Id, control: Id, locked: z.boolean() }),
  z.strictObject({ kind: z.literal('change brief'), to: BriefChange }),
  z.strictObject({ kind: z.literal('change plan'), to: Plan }),
  z.strictObject({ kind: z.literal('rename'), name: Name }),
  z.strictObject({ kind: z.literal('note'), note: Note }),
  z.strictObject({ kind: z.literal('add box'), box: Box }),
  z.strictObject({ kind: z.literal('remove box'), box: Id }),
  z.strictObject({ kind: z.literal('place box'), box: Id, place: Id.nullable() }),
  z.strictObject({ kind: z.literal('cover box'), box: Id, cover: Cover.nullable() }),
  z.strictObject({ kind: z.literal('connect'), link: Link }),
  z.strictObject({ kind: z.literal('disconnect'), link: Id }),
  z.strictObject({
    kind: z.literal('insert piece'),
    link: Id,
    at: z.number().int().min(0).max(8),
    piece: PieceSchema,
  }),
  z.strictObject({ kind: z.literal('remove piece'), piece: Id }),
  z.strictObject({ kind: z.literal('swap'), part: Id, gear: Id }),
  z.strictObject({
    kind: z.literal('set wiring'),
    boxes: Patch.shape.boxes,
    links: Patch.shape.links,
  }),
  WiringRestore,
])
export type Edit = z.infer<typeof Edit>

/** Applies edits in order to an immutable patch. Throws a Refusal, and changes nothing, when the result is unsound. */
export function applyEdits(patch: Patch, edits: readonly Edit[], shelf: Shelf): Patch {
  const next = edits.reduce((each, edit) => apply(each, edit, shelf), patch)
  const [problem] = checkPatch(next, shelf)
  if (problem && !checkPatch(patch, shelf).includes(problem))
    throw new Refusal(`This change was refused: ${problem}`)
  return next
}

/** The edits that take the result of `edits` back to `patch`. */
export function inverseOf(patch: Patch, edits: readonly Edit[], shelf: Shelf): Edit[] {
  const back: Edit[] = []
  let now = patch
  for (const edit of edits) {
    const next = apply(now, edit, shelf)
    back.unshift(inverse(now, edit, next))
    now = next
  }
  return back
}

function apply(patch: Patch, edit: Edit, shelf: Shelf): Patch {
  switch (edit.kind) {
    case 'set control':
      return withPart(patch, edit.part, (part) => {
        const others = Object.entries(part.settings).filter(([control]) => control !== edit.control)
        const own = edit.position === null ? [] : [[edit.control, edit.position] as const]
        return { settings: Object.fromEntries([...others, ...own]) }
      })
    case 'lock control':
      return withPart(patch, edit.part, (part) => ({
        locked: edit.locked
          ? [...new Set([...part.locked, edit.control])]
          : part.locked.filter((id) => id !== edit.control),
      }))
    case 'change brief':
      return { ...patch, brief: { ...patch.brief, ...edit.to } }
    case 'change plan':
      return { ...patch, plan: edit.to }
    case 'rename':
      return { ...patch, name: edit.name }
    case 'note':
      return { ...patch, note: edit.note }
    case 'add box':
      return { ...patch, boxes: [...patch.boxes, edit.box] }
    case 'remove box':
      return { ...patch, boxes: patch.boxes.filter(({ id }) => id !== edit.box) }
    case 'place box':
      return {
        ...patch,
        boxes: patch.boxes.map((box) =>
          box.id === edit.box ? { ...box, place: edit.place ?? undefined } : box,
        ),
      }
    case 'cover box':
      return {
        ...patch,
        boxes: patch.boxes.map((box) =>
          box.id === edit.box ? { ...box, cover: edit.cover ?? undefined } : box,
        ),
      }
    case 'connect':
      return { ...patch, links: [...patch.links, edit.link] }
    case 'disconnect':
      return disconnected(patch, edit.link)
    case 'insert piece':
      return withLink(patch, edit.link, (link) => link.through.toSpliced(edit.at, 0, edit.piece))
    case 'remove piece':
      return withLink(unbranched(patch, edit.piece), linkOfPiece(patch, edit.piece).id, (link) =>
        link.through.filter(({ id }) => id !== edit.piece),
      )
    case 'swap':
      return swapped(patch, edit.part, edit.gear, shelf)
    case 'set wiring':
      return { ...patch, boxes: edit.boxes, links: edit.links }
    case 'restore wiring':
      return parse(Patch, restored(patch, edit), 'This change')
  }
}

function inverse(patch: Patch, edit: Edit, after: Patch): Edit {
  switch (edit.kind) {
    case 'set control':
      return { ...edit, position: partOf(patch, edit.part).settings[edit.control] ?? null }
    case 'lock control':
      return { ...edit, locked: partOf(patch, edit.part).locked.includes(edit.control) }
    case 'change brief': {
      const keys = Object.keys(edit.to) as (keyof typeof edit.to)[]
      return { ...edit, to: Object.fromEntries(keys.map((key) => [key, patch.brief[key]])) }
    }
    case 'change plan':
      return { ...edit, to: patch.plan }
    case 'rename':
      return { ...edit, name: patch.name }
    case 'note':
      return { ...edit, note: patch.note }
    case 'add box':
      return { kind: 'remove box', box: edit.box.id }
    case 'place box':
      return { ...edit, place: patch.boxes.find(({ id }) => id === edit.box)?.place ?? null }
    case 'cover box':
      return { ...edit, cover: patch.boxes.find(({ id }) => id === edit.box)?.cover ?? null }
    case 'connect':
      return { kind: 'disconnect', link: edit.link.id }
    case 'insert piece':
      return { kind: 'remove piece', piece: edit.piece.id }
    case 'remove box':
    case 'disconnect':
    case 'remove piece':
    case 'swap':
    case 'set wiring':
    case 'restore wiring':
      return wiringRestore(patch, after)
  }
}

type Part = { id: string; gear: string; settings: Record<string, Position>; locked: string[] }

/** A box or a piece of a link by its id. Throws a Refusal when there is none. */
export function partOf(patch: Patch, id: string): Part {
  const part =
    patch.boxes.find((box) => box.id === id) ??
    patch.links.flatMap((link) => link.through).find((piece) => piece.id === id)
  if (!part) throw new Refusal(`This change was refused: "${id}" is no longer in the chain.`)
  return part
}

function withPart(patch: Patch, id: string, change: (part: Part) => Partial<Part>): Patch {
  const changed = change(partOf(patch, id))
  return {
    ...patch,
    boxes: patch.boxes.map((box) => (box.id === id ? { ...box, ...changed } : box)),
    links: patch.links.map((link) =>
      link.through.some((piece) => piece.id === id)
        ? {
            ...link,
            through: link.through.map((piece) => (piece.id === id ? { ...piece, ...changed } : piece)),
          }
        : link,
    ),
  }
}

function withLink(patch: Patch, id: string, through: (link: Link) => Link['through']): Patch {
  if (!patch.links.some((link) => link.id === id))
    throw new Refusal(`This change was refused: link "${id}" is no longer in the chain.`)
  return {
    ...patch,
    links: patch.links.map((link) => (link.id === id ? { ...link, through: through(link) } : link)),
  }
}

function linkOfPiece(patch: Patch, piece: string): Link {
  const link = patch.links.find(({ through }) => through.some(({ id }) => id === piece))
  if (!link) throw new Refusal(`This change was refused: "${piece}" is no longer in the chain.`)
  return link
}

/** Without a splitter, what began at it is plugged into the output itself; what ended in it hangs loose. */
const unbranched = (patch: Patch, piece: string): Patch => ({
  ...patch,
  links: patch.links
    .filter(({ joins }) => joins?.piece !== piece)
    .map((link) => (link.branch?.piece === piece ? { ...link, branch: undefined } : link)),
})

/** A link pulled. The first that branches from it takes over the way up to its splitter. */
function disconnected(patch: Patch, id: string): Patch {
  const pulled = patch.links.find((link) => link.id === id)
  const links = patch.links.filter((link) => link !== pulled)
  if (!pulled) return { ...patch, links }
  const splitters = pulled.through.map((piece) => piece.id)
  const heir = links.find(
    ({ branch, from }) =>
      branch &&
      splitters.includes(branch.piece) &&
      from.box === pulled.from.box &&
      from.port === pulled.from.port,
  )
  const kept = heir ? pulled.through.slice(0, splitters.indexOf(heir.branch!.piece) + 1) : []
  const without = splitters.slice(kept.length).reduce(unbranched, { ...patch, links })
  return {
    ...without,
    links: without.links.map((link) =>
      link.id === heir?.id ? { ...link, branch: undefined, through: [...kept, ...link.through] } : link,
    ),
  }
}

/** Another thing in the same place: ports are matched by direction and order, controls by id where they fit. */
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
  const portAfter = (way: 'in' | 'out', port: string) => matchingPort(before, after, way, port)
  return {
    ...changed,
    links: changed.links.map((link) => ({
      ...link,
      from: link.from.box === id ? { box: id, port: portAfter('out', link.from.port) } : link.from,
      to: link.to.box === id ? { box: id, port: portAfter('in', link.to.port) } : link.to,
    })),
  }
}

function matchingPort(before: Gear | undefined, after: Gear, way: 'in' | 'out', port: string): string {
  if (after.ports.some((each) => each.id === port && each.way === way)) return port
  const order = (before?.ports.filter((each) => each.way === way) ?? []).findIndex(({ id }) => id === port)
  const candidates = after.ports.filter((each) => each.way === way)
  const found = candidates[Math.max(0, order)] ?? candidates[0]
  if (!found)
    throw new Refusal(
      `This change was refused: ${after.name} has no ${way}put to plug the neighbouring cable into.`,
    )
  return found.id
}
