import { z } from 'zod'
import { Brief } from '../model'
import { editKind } from './edit-kind'

// fields that a change leaves out stay as they are: defaults must not fill them in
const { places, noises, wind, note, purpose, wantedSpeechToNoiseDb } = Brief.shape
const BriefChange = Brief.extend({
  places: places.unwrap(),
  noises: noises.unwrap(),
  wind: wind.unwrap(),
  note: note.unwrap(),
  // null removes an optional field: a missing field would not be transmitted
  purpose: purpose.unwrap().nullable(),
  wantedSpeechToNoiseDb: wantedSpeechToNoiseDb.unwrap().nullable(),
}).partial()

/** Parts of the brief, each replaced whole. */
export const changeBrief = editKind(z.strictObject({ kind: z.literal('change brief'), to: BriefChange }), {
  apply: (patch, { to }) => ({
    ...patch,
    brief: Object.fromEntries(
      Object.entries({ ...patch.brief, ...to }).filter(([, value]) => value !== null),
    ) as Brief,
  }),
  inverse: (before, edit) => {
    const keys = Object.keys(edit.to) as (keyof typeof edit.to)[]
    return { ...edit, to: Object.fromEntries(keys.map((key) => [key, before.brief[key] ?? null])) }
  },
  words: ({ to }) => `brief changed: ${Object.keys(to).map(fieldName).join(', ')}`,
})

const fieldName = (key: string): string =>
  key === 'wantedSpeechToNoiseDb'
    ? 'speech-to-noise asked for'
    : key === 'purpose'
      ? 'what the result is for'
      : key === 'noises'
        ? 'noises of the place'
        : key
