import { defineStore } from 'pinia'
import { ref } from 'vue'
import { z } from 'zod'
import { kindOfPlace, Parcel } from './parcel'
import { Storage } from './storage'

/**
 * A change that the server refused for good, or that it no longer has since it was restored. It waits for the person, and
 * holds nothing up.
 */
export const SetAside = z.strictObject({
  parcel: Parcel,
  sentence: z.string(),
  why: z
    .enum(['refused', 'restored'])
    .default('refused')
    .describe('the server said no, or has another version'),
  at: z.iso.datetime(),
})
export type SetAside = z.infer<typeof SetAside>

/** Name of the change at the beginning of a sentence. */
export const kindWords: Record<string, string> = {
  scene: 'A change of a scene',
  take: 'A take',
  proof: 'A measurement',
  gear: 'A thing of the shelf',
}

/** Subject of a change that was set aside, in words. */
export const asideWords = ({ parcel: { place, errand } }: SetAside): string =>
  `${kindWords[kindOfPlace(place)] ?? 'A change'}${errand.do === 'drop' ? ' that was deleted' : ''}`

/** Changes that the server refused for good: they can be read, saved and dropped, also after a reload. */
export const useSetAside = defineStore('set aside', () => {
  const storage = new Storage(() => undefined)
  const list = ref<SetAside[]>([])
  const ready = storage.setAside().then((stored) => {
    const read = stored.flatMap((each) => SetAside.safeParse(each).data ?? [])
    list.value = [...read, ...list.value]
  })

  function add(parcel: Parcel, sentence: string, why: SetAside['why'] = 'refused'): void {
    const aside = { parcel, sentence, why, at: new Date().toISOString() }
    list.value = [...list.value, aside]
    storage.keepAside(parcel.id, aside)
  }
  function drop({ parcel: { id } }: SetAside): void {
    list.value = list.value.filter(({ parcel }) => parcel.id !== id)
    storage.removeAside(id)
  }
  return { list, ready, add, drop }
})
