import { z } from 'zod'
import { Brief } from '../model'
import { editKind } from './edit-kind'

// what a change leaves out stays as it is: defaults must not fill it in
const { places, noises, wind, note } = Brief.shape
const BriefChange = Brief.extend({
  places: places.unwrap(),
  noises: noises.unwrap(),
  wind: wind.unwrap(),
  note: note.unwrap(),
}).partial()

/** Parts of the brief, each replaced whole. */
export const changeBrief = editKind(z.strictObject({ kind: z.literal('change brief'), to: BriefChange }), {
  apply: (patch, { to }) => ({ ...patch, brief: { ...patch.brief, ...to } }),
  inverse: (before, edit) => {
    const keys = Object.keys(edit.to) as (keyof typeof edit.to)[]
    return { ...edit, to: Object.fromEntries(keys.map((key) => [key, before.brief[key]])) }
  },
  words: ({ to }) => `brief changed: ${Object.keys(to).map(fieldName).join(', ')}`,
})

const fieldName = (key: string): string =>
  key === 'wantedSpeechToNoiseDb'
    ? 'speech-to-noise asked for'
    : key === 'noises'
      ? 'noises of the place'
      : key
