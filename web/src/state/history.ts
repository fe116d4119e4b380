import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

/** Something that was done and can be taken back. */
interface Deed {
  name: string
  undo: () => void
  redo: () => void
  /** Deeds of one hand movement: the same key within a second counts as one. */
  merge?: string
}

const mergeMs = 1000
const most = 500

/** Undo and redo, the same everywhere. */
export const useHistory = defineStore('history', () => {
  const past = shallowRef<Deed[]>([])
  const future = shallowRef<Deed[]>([])
  const lastAt = ref(0)
  const canUndo = computed(() => past.value.at(-1)?.name)
  const canRedo = computed(() => future.value.at(-1)?.name)

  function done(deed: Deed): void {
    const now = performance.now()
    const last = past.value.at(-1)
    if (deed.merge && last?.merge === deed.merge && now - lastAt.value < mergeMs)
      past.value = [...past.value.slice(0, -1), { ...deed, undo: last.undo }]
    else past.value = [...past.value.slice(-most), deed]
    lastAt.value = now
    future.value = []
  }
  /** Does it, and keeps it. */
  function perform(deed: Deed): void {
    deed.redo()
    done(deed)
  }
  function undo(): void {
    const deed = past.value.at(-1)
    if (!deed) return
    past.value = past.value.slice(0, -1)
    future.value = [...future.value, deed]
    deed.undo()
  }
  function redo(): void {
    const deed = future.value.at(-1)
    if (!deed) return
    future.value = future.value.slice(0, -1)
    past.value = [...past.value, deed]
    deed.redo()
  }
  function forget(): void {
    past.value = future.value = []
  }
  return { canUndo, canRedo, done, perform, undo, redo, forget }
})
