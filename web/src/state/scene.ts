import { defineStore, storeToRefs } from 'pinia'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { listShoots, Shoot } from '@iron-hush/core/contract'
import type { Edit } from '@iron-hush/core/edits'
import { ask, ServerAway } from '../sync/ask'
import { useOutbox } from '../sync/outbox'
import { useGear } from './gear'
import { useSceneDocument } from './scene-document'
import { useSceneFigures } from './scene-figures'

/** The scene in hand: its document, its levels, and every change of it. */
export const useScene = defineStore('scene', () => {
  const { shelf } = storeToRefs(useGear())
  const router = useRouter()
  const shoots = ref<Shoot[]>([])
  const { document, patch, conflict, carry, ...edited } = useSceneDocument(shelf)
  const figures = useSceneFigures(patch, shelf)

  async function loadShoots(): Promise<void> {
    shoots.value = await shootsFromServer()
    carry()
  }

  /** What the server has; while it is away, what it had when it was last asked. */
  async function shootsFromServer(): Promise<Shoot[]> {
    const { storage } = useOutbox()
    try {
      const all = await ask(listShoots)
      const rows = all.map((shoot) => ({ id: shoot.id, revision: 1, content: shoot }))
      storage.keepDocuments('shoot', '', rows)
      return all
    } catch (error) {
      const kept = error instanceof ServerAway ? await storage.documents('shoot', '') : []
      if (kept.length === 0) throw error
      return kept.flatMap(({ content }) => Shoot.safeParse(content).data ?? [])
    }
  }

  async function open(id: string): Promise<void> {
    await edited.open(id)
    figures.runId.value = ''
  }

  /** Changes the scene, here at once and on the server in a moment. Edits of one movement share a `merge` key. */
  function change(edits: Edit[], name: string, merge?: string): boolean {
    // what is turned stays in sight, even when another run then has more to say
    if (edits.every(({ kind }) => kind === 'set control' || kind === 'lock control'))
      figures.runId.value = figures.run.value?.id ?? ''
    return edited.change(edits, name, merge)
  }

  async function goTo(id: string): Promise<void> {
    const route = router.currentRoute.value
    await router.push({ name: route.name ?? 'levels', params: { ...route.params, scene: id } })
  }

  const { keepMine, keepTheirs, refresh } = edited
  return {
    shoots,
    document,
    patch,
    conflict,
    loadShoots,
    open,
    change,
    flush: () => useOutbox().flush(),
    keepMine,
    keepTheirs,
    refresh,
    goTo,
    ...figures,
  }
})
