import { z } from 'zod'
import { Edit } from '@iron-hush/core/edits'
import { currentFormat, Gear, ProofRecord, Take, Uuid } from '@iron-hush/core/model'
import { Parcel } from './parcel'

/** Where the release before this one kept what was on its way. */
export const earlierKey = 'iron-hush.outbox'

const gone = z.strictObject({ gone: z.string() })
const EarlierParcel = z.strictObject({
  id: Uuid,
  tab: z.string(),
  place: z.string(),
  content: z.union([
    z.strictObject({ change: Uuid, edits: z.array(Edit).min(1) }),
    z.strictObject({ take: Take }),
    z.strictObject({ proof: ProofRecord }),
    z.strictObject({ gear: Gear }),
    gone,
  ]),
})

/** Takes over what the release before left in the browser, once. What cannot be read stays there. */
export function earlierParcels(storage: Pick<globalThis.Storage, 'getItem' | 'setItem'>): Parcel[] {
  let stored: unknown
  try {
    stored = JSON.parse(storage.getItem(earlierKey) ?? '[]')
  } catch {
    return []
  }
  if (!Array.isArray(stored) || stored.length === 0) return []
  const read = stored.map((each: unknown) => EarlierParcel.safeParse(currentFormat(each)))
  storage.setItem(earlierKey, JSON.stringify(stored.filter((_, index) => !read[index]?.success)))
  return read.flatMap(({ data }, order) => (data ? [translated(data, order)] : []))
}

function translated({ id, tab, place, content }: z.infer<typeof EarlierParcel>, order: number): Parcel {
  const kind = place.slice(0, place.indexOf(':'))
  const to = (of: string, errand: Parcel['errand']): Parcel => ({
    id,
    tab,
    place: `${kind}:${of}`,
    order,
    errand,
  })
  if ('edits' in content) return { id, tab, place, order, errand: { do: 'edit', ...content } }
  if ('gone' in content) return to(content.gone, { do: 'drop' })
  const document = 'take' in content ? content.take : 'proof' in content ? content.proof : content.gear
  return to(document.id, { do: 'put', content: document })
}
