import { known } from '@iron-hush/core/model'
import { defineStore, storeToRefs } from 'pinia'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { Edit } from '@iron-hush/core/edits'
import { useOutbox } from '../sync/outbox'
import { useEarlyOpening } from './early-opening'
import { useGear } from './gear'
import { useSceneDocument } from './scene-document'
import { useSceneFigures, useUsedShelf } from './scene-figures'
import { useShoots } from './shoots'

/** The open scene: its document, its levels, and every change of it. */
export const useScene = defineStore('scene', () => {
  const gear = useGear()
  const { shelf } = storeToRefs(gear)
  const { list: shoots } = storeToRefs(useShoots())
  const router = useRouter()
  const { document, patch, conflict, carry, ...edited } = useSceneDocument({ shelf, whole: gear.whole })
  const figures = useSceneFigures(patch, useUsedShelf(patch, shelf))

  async function open(id: string): Promise<void> {
    // before, for anyone who opens it may choose a run
    figures.runId.value = ''
    await edited.open(id)
  }

  /** Changes the scene, here at once and on the server in a moment. Edits of one movement share a `merge` key. */
  function change(edits: Edit[], name: string, merge?: string): boolean {
    // what is turned stays in sight, even when another run then has more to say
    if (edits.every(({ kind }) => kind === 'set control' || kind === 'lock control'))
      figures.runId.value = figures.run.value?.id ?? ''
    return edited.change(edits, name, merge)
  }

  /** Shows another scene at the station that is shown; on Levels where that is none of a scene. */
  async function goTo(id: string): Promise<void> {
    const { name, params } = router.currentRoute.value
    await router.push({ name: params.scene === undefined ? 'levels' : name!, params: { scene: id } })
  }

  const { actsOf, keepMine, keepTheirs, refresh } = edited
  return {
    shoots,
    document,
    patch,
    /** The same, for what is shown only while a scene is open. */
    openPatch: computed(() => known(patch.value, 'an open scene')),
    conflict,
    carry,
    open,
    ...useEarlyOpening(open),
    change,
    actsOf,
    flush: () => useOutbox().flush(),
    keepMine,
    keepTheirs,
    refresh,
    goTo,
    ...figures,
  }
})
