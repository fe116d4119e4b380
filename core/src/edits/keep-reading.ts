import { z } from 'zod'
import { LineUpReading, Uuid, type Patch } from '../model'
import { editKind } from './edit-kind'

const schema = z.strictObject({
  kind: z.literal('keep reading'),
  id: Uuid,
  reading: LineUpReading.nullable(),
})

const readingOf = ({ lineUp }: Patch, wanted: string): LineUpReading | null =>
  lineUp.find(({ id }) => id === wanted) ?? null

/** A reading of the line-up, kept or put in the place of the one with its id; null: it is dropped. */
export const keepReading = editKind(schema, {
  apply: (patch, { id, reading }) => {
    const others = patch.lineUp.filter((each) => each.id !== id)
    if (!reading) return { ...patch, lineUp: others }
    // in order of time, so that a restored reading is at its old place
    const lineUp = [...others, reading].sort((one, other) => one.at.localeCompare(other.at))
    return { ...patch, lineUp }
  },
  inverse: (before, { kind, id }) => ({ kind, id, reading: readingOf(before, id) }),
  words: ({ reading }) => (reading ? 'a reading of the line-up' : 'a reading of the line-up deleted'),
})
