import { known } from '@iron-hush/core/model'
import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { useHistory } from '../state/history'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { useGearPlace } from './gear-place'
import { useShortcuts } from './shortcuts'
import { stations } from './stations'
import { isTyping } from './typing'

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
  })
}

/** Undo and redo, except in a field, which has its own. */
function useUndoKeys(): void {
  const history = useHistory()
  useEventListener(window, 'keydown', (event) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
    const target = event.target as HTMLElement
    if (isTyping(event) && target.matches('input[type=text], input:not([type]), textarea')) return
    event.preventDefault()
    if (event.shiftKey) history.redo()
    else history.undo()
  })
}
