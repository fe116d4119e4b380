import { known } from '@iron-hush/core/model'
import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { useHistory } from '../state/history'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useGearPlace } from './gear-place'
import { useShortcuts } from './shortcuts'
import { stations } from './stations'
import { useHalfTyped } from './typing'

/** Keys that work everywhere. */
export function useKeys(): void {
  const route = useRoute()
  const router = useRouter()
  const scene = useScene()
  const view = useView()
  const gearPlace = useGearPlace()
  useUndoKeys()
  useShortcuts({
    station: ({ key }) => {
      // on Roll the figures are for marks, where no thumb or eye should have to look
      if (route.name === 'roll' || route.params.scene === undefined) return false
      void router.push({
        name: known(
          stations.find((each) => each.key === key),
          `station ${key}`,
        ).name,
        params: route.params,
      })
    },
    gear: () => {
      if (route.name === 'roll') return false
      void router.push(gearPlace())
    },
    previousRun: () => scene.stepRun(-1),
    nextRun: () => scene.stepRun(1),
    find: () => view.toggle('find'),
    keys: () => view.toggle('keys'),
    close: () => (view.open === 'why' ? view.toggle('why') : false),
  })
}

/** Undo and redo, except where a field holds what is not taken yet: its own undo comes first. */
function useUndoKeys(): void {
  const history = useHistory()
  const halfTyped = useHalfTyped()
  useEventListener(window, 'keydown', (event) => {
    const key = event.key.toLowerCase()
    if (!(event.ctrlKey || event.metaKey) || event.altKey || (key !== 'z' && key !== 'y')) return
    if (halfTyped(event.target)) return
    event.preventDefault()
    if (key === 'y' || event.shiftKey) history.redo()
    else history.undo()
  })
}
