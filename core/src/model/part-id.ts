import { piecesOf } from './lookup'
import type { Patch } from './patch'

/** A short id for a part of a chain, after what it is and not yet in use. */
export function partId(base: string, used: readonly string[]): string {
  const stem = base.replace(/[^a-z0-9-]/g, '-').slice(0, 40)
  if (!used.includes(stem)) return stem
  for (let number = 2; ; number++) if (!used.includes(`${stem}-${number}`)) return `${stem}-${number}`
}

/** All ids of parts in use. */
export const idsOf = (patch: Patch): string[] =>
  [...patch.boxes, ...patch.links, ...piecesOf(patch)].map(({ id }) => id)

/**
 * An id for a new thing of the shelf, after its name. What was deleted keeps its id for good, also where nobody here knows
 * of it any more: so the end of it is made at random.
 *
 * @param unique a fresh UUID
 */
export function gearId(name: string, unique: string): string {
  const stem = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
  return `${stem.slice(0, 40) || 'thing'}-${unique.replaceAll('-', '').slice(-6)}`
}
