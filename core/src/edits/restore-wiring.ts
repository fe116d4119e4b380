import { z } from 'zod'
import { Box, Id, Link, parse, Patch, type Piece, Position } from '../model'
import { editKind } from './edit-kind'

/*
 * What takes the wiring back to what it was, and no more: things that came go, things that went come back, and of what
 * stayed only the fields that had changed. Whatever else was done meanwhile is kept.
 */

const PieceSchema = Link.shape.pieces.unwrap().element

const gone = z.strictObject({ id: Id, gone: z.literal(true) })
const put = <T extends z.ZodType>(value: T) =>
  z.strictObject({ id: Id, at: z.number().int().min(0).max(80), put: value })
/** Fields by name; null for one that was not there. Their values are checked with the patch that comes out. */
const fields = z.record(z.string(), z.unknown())
const settings = z.record(Id, Position.nullable()).optional()
const pieceChange = z.union([gone, put(PieceSchema), z.strictObject({ id: Id, fields, settings })])

const WiringRestore = z.strictObject({
  kind: z.literal('restore wiring'),
  boxes: z.array(z.union([gone, put(Box), z.strictObject({ id: Id, fields, settings })])).max(120),
  links: z
    .array(
      z.union([
        gone,
        put(Link),
        z.strictObject({ id: Id, fields, pieces: z.array(pieceChange).max(16).optional() }),
      ]),
    )
    .max(240),
})
type WiringRestore = z.infer<typeof WiringRestore>

/** Takes the wiring back, exactly as far as the edit behind it went. */
export const restoreWiring = editKind(WiringRestore, {
  apply: (patch, edit) => parse(Patch, restored(patch, edit), 'This change'),
  inverse: (before, _, after) => wiringRestore(before, after),
  words: () => 'a change of the wiring undone',
})

type Fields = Record<string, unknown>
type Change<T, More> =
  | { id: string; gone: true }
  | { id: string; at: number; put: T }
  | ({ id: string; fields: Fields } & More)
interface Settings {
  settings?: Record<string, Position | null>
}
type PieceChange = Change<Piece, Settings>
interface Through {
  pieces?: PieceChange[]
}

/** The edit that takes `after` back to `before`. */
export function wiringRestore(before: Patch, after: Patch): WiringRestore {
  return {
    kind: 'restore wiring',
    boxes: listChanges(before.boxes, after.boxes, settingsChange, ['settings']),
    links: listChanges(
      before.links,
      after.links,
      (was, is): Through => {
        const pieces = listChanges(was.pieces, is.pieces, settingsChange, ['settings'])
        return pieces.length ? { pieces } : {}
      },
      ['through'],
    ),
  }
}

function restored(patch: Patch, { boxes, links }: WiringRestore): Patch {
  return Object.assign(
    { ...patch },
    {
      boxes: withChanges<Box, Settings>(patch.boxes, boxes, withSettings),
      links: withChanges<Link, Through>(patch.links, links, (link, { pieces }) =>
        pieces ? { ...link, pieces: withChanges<Piece, Settings>(link.pieces, pieces, withSettings) } : link,
      ),
    },
  )
}

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other)

function listChanges<T extends { id: string }, More extends object>(
  before: readonly T[],
  after: readonly T[],
  more: (was: T, is: T) => More,
  apart: readonly string[],
): Change<T, More>[] {
  const left = after.filter(({ id }) => !before.some((was) => was.id === id))
  return [
    ...left.map(({ id }) => ({ id, gone: true as const })),
    ...before.flatMap((was, at): Change<T, More>[] => {
      const is = after.find(({ id }) => id === was.id)
      if (!is) return [{ id: was.id, at, put: was }]
      const changed = fieldChanges(was, is, apart)
      const others = more(was, is)
      return Object.keys(changed).length || Object.keys(others).length
        ? [{ id: was.id, fields: changed, ...others }]
        : []
    }),
  ]
}

function fieldChanges(was: object, is: object, apart: readonly string[]): Fields {
  const [one, other] = [was, is].map((each) => new Map(Object.entries(each)))
  const names = [...new Set([...one!.keys(), ...other!.keys()])]
  return Object.fromEntries(
    names
      .filter((name) => !apart.includes(name) && !same(one!.get(name), other!.get(name)))
      .map((name) => [name, one!.get(name) ?? null]),
  )
}

function settingsChange(
  was: { settings: Record<string, Position> },
  is: { settings: Record<string, Position> },
): Settings {
  const controls = [...new Set([...Object.keys(was.settings), ...Object.keys(is.settings)])]
  const changed = controls.filter((control) => was.settings[control] !== is.settings[control])
  return changed.length
    ? { settings: Object.fromEntries(changed.map((control) => [control, was.settings[control] ?? null])) }
    : {}
}

function withChanges<T extends { id: string }, More extends object>(
  list: readonly T[],
  changes: readonly Change<T, More>[],
  more: (item: T, change: More) => T,
): T[] {
  const kept = list.flatMap((item): T[] => {
    const change = changes.find(({ id }) => id === item.id)
    if (!change) return [item]
    if ('gone' in change) return []
    return 'put' in change ? [item] : [more(withFields(item, change.fields), change)]
  })
  for (const change of changes)
    if ('put' in change && !kept.some(({ id }) => id === change.id)) kept.splice(change.at, 0, change.put)
  return kept
}

function withFields<T extends object>(item: T, changed: Fields): T {
  const entries = Object.entries({ ...item, ...changed }).filter(
    ([name, value]) => !(name in changed && value === null),
  )
  return Object.fromEntries(entries) as T
}

function withSettings<T extends { settings: Record<string, Position> }>(
  item: T,
  { settings: changed }: Settings,
): T {
  if (!changed) return item
  const entries = Object.entries({ ...item.settings, ...changed }).filter(
    (entry): entry is [string, Position] => entry[1] !== null,
  )
  return { ...item, settings: Object.fromEntries(entries) }
}
