import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { z } from 'zod'
import { type Gear, GearDocument, shelfOf } from '@iron-hush/core/model'
import { useHistory } from './history'
import { useNotices } from './notices'
import { useOutbox } from './outbox'
import { ask } from './server'

interface GearParcel {
  gear: Gear
}

/** The shelf. */
export const useGear = defineStore('gear', () => {
  const documents = ref<GearDocument[]>([])
  const outbox = useOutbox()
  const all = computed(() => documents.value.map(({ gear }) => gear))
  const shelf = computed(() => shelfOf(all.value))

  async function load(): Promise<void> {
    documents.value = await ask(z.array(GearDocument), 'GET', '/api/gear')
    for (const { gear } of documents.value)
      for (const parcel of outbox.waitingFor(`gear:${gear.id}`)) put((parcel.content as GearParcel).gear)
    outbox.carry('gear', {
      async send(parcel) {
        const { gear } = parcel.content as GearParcel
        const known = documents.value.find((each) => each.gear.id === gear.id)!
        const answer = await ask(GearDocument, 'PUT', `/api/gear/${gear.id}`, {
          baseRevision: known.revision,
          gear,
        })
        known.revision = answer.revision
      },
      refused(_, { problem }) {
        useNotices().say(problem.detail)
        void load()
      },
    })
  }

  function put(gear: Gear): void {
    documents.value = documents.value.map((each) => (each.gear.id === gear.id ? { ...each, gear } : each))
  }

  /** Changes a thing on the shelf; can be undone. */
  function change(gear: Gear, name: string): void {
    const before = documents.value.find((each) => each.gear.id === gear.id)!.gear
    const store = (each: Gear) => {
      put(each)
      outbox.post(`gear:${gear.id}`, { gear: each } satisfies GearParcel)
    }
    useHistory().done({ name, redo: () => store(gear), undo: () => store(before) })
    store(gear)
  }

  return { all, shelf, load, change }
})
