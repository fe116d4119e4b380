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
