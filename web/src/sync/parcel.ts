import { z } from 'zod'
import { Edit } from '@iron-hush/core/edits'
import { Uuid } from '@iron-hush/core/model'

/** A change for the server: edits of a scene, or a document stored or deleted. */
const Errand = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('edit'),
    change: Uuid.describe('id of the change, the same at every try'),
    edits: z.array(Edit).min(1),
  }),
  z.strictObject({
    do: z.literal('put'),
    content: z.unknown().describe('checked by the schema of its kind'),
  }),
  z.strictObject({ do: z.literal('drop') }),
])
export type Errand = z.infer<typeof Errand>

/** Something on its way to the server. It stays in the browser's own storage until the server has it. */
export const Parcel = z.strictObject({
  id: Uuid,
  tab: z.string(),
  /** Where it goes, `kind:id`. Parcels to one place go one after another. */
  place: z.string().regex(/^(scene|take|proof|gear):./),
  /** Parcels go in this order. */
  order: z.number(),
  errand: Errand,
})
export type Parcel = z.infer<typeof Parcel>

export const placeOf = (kind: string, id: string): string => `${kind}:${id}`
export const kindOfPlace = (place: string): string => place.slice(0, place.indexOf(':'))
export const idOfPlace = (place: string): string => place.slice(place.indexOf(':') + 1)

/** Two errands of one hand movement as one, so that a knob that was turned is sent where it stopped. */
export function joined(before: Errand, after: Errand): Errand | undefined {
  if (before.do !== 'edit' || after.do !== 'edit') return undefined
  const edits = [...before.edits.filter((old) => !replacedBy(old, after.edits)), ...after.edits]
  return edits.length <= 100 ? { ...before, edits } : undefined
}

/** Whether later edits make an earlier one pointless. */
const replacedBy = (old: Edit, edits: readonly Edit[]): boolean =>
  old.kind === 'set control' &&
  edits.some((edit) => edit.kind === 'set control' && old.part === edit.part && old.control === edit.control)
