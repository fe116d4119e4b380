import { z } from 'zod'
import { Patch } from '../model'
import { editKind } from './edit-kind'
import { wiringRestore } from './restore-wiring'

/** All boxes and links at once. */
export const setWiring = editKind(
  z.strictObject({
    kind: z.literal('set wiring'),
    boxes: Patch.shape.boxes,
    links: Patch.shape.links,
  }),
  {
    apply: (patch, { boxes, links }) => ({ ...patch, boxes, links }),
    inverse: (before, _, after) => wiringRestore(before, after),
    words: () => 'wiring replaced',
  },
)
