import { z } from 'zod'
import { Id, type Patch } from '../model'
import { editKind } from './edit-kind'
import { unbranched } from './parts'
import { wiringRestore } from './restore-wiring'

/** A link pulled, with everything between its ends. */
export const disconnect = editKind(z.strictObject({ kind: z.literal('disconnect'), link: Id }), {
  apply: (patch, { link }) => disconnected(patch, link),
  inverse: (before, _, after) => wiringRestore(before, after),
  words: ({ link }, names) => `${names.link(link)} disconnected`,
})

/** The first link that branches from the pulled one takes over the way up to its splitter. */
function disconnected(patch: Patch, id: string): Patch {
  const pulled = patch.links.find((link) => link.id === id)
  const links = patch.links.filter((link) => link !== pulled)
  if (!pulled) return { ...patch, links }
  const splitters = pulled.pieces.map((piece) => piece.id)
  const heir = links.find(
    ({ branch, from }) =>
      branch &&
      splitters.includes(branch.piece) &&
      from.box === pulled.from.box &&
      from.port === pulled.from.port,
  )
  const kept = heir?.branch ? pulled.pieces.slice(0, splitters.indexOf(heir.branch.piece) + 1) : []
  const without = splitters.slice(kept.length).reduce(unbranched, { ...patch, links })
  return {
    ...without,
    links: without.links.map((link) =>
      link.id === heir?.id ? { ...link, branch: undefined, pieces: [...kept, ...link.pieces] } : link,
    ),
  }
}
