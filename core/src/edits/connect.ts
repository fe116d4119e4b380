import { z } from 'zod'
import { Link } from '../model'
import { editKind } from './edit-kind'

/** A link between an output and an input. */
export const connect = editKind(z.strictObject({ kind: z.literal('connect'), link: Link }), {
  apply: (patch, { link }) => ({ ...patch, links: [...patch.links, link] }),
  inverse: (_, { link }) => ({ kind: 'disconnect' as const, link: link.id }),
  words: ({ link }, names) => `${names.part(link.from.box)} connected to ${names.part(link.to.box)}`,
})
