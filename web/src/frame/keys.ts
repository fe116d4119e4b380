import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import { useHistory } from '../state/history'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { stations } from './stations'
import { isTyping } from './typing'

/** Keys that work everywhere. */
export function useKeys(): void {
  const route = useRoute()
  const router = useRouter()
  const history = useHistory()
  const scene = useScene()
  const view = useView()
  useEventListener(window, 'keydown', (event) => {
    const key = event.key.toLowerCase()
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      if (
        isTyping(event) &&
        (event.target as HTMLElement).matches('input[type=text], input:not([type]), textarea')
      )
        return
      event.preventDefault()
      if (event.shiftKey) history.redo()
      else history.undo()
      return
    }
    if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || view.open) return
    const station = stations.find((each) => each.key === event.key)
    // on Roll the figures are for marks, where no thumb or eye should have to look
    if (station && route.name !== 'roll') void router.push({ name: station.name, params: route.params })
    else if (key === 'g' && route.name !== 'roll') void router.push({ name: 'gear', params: route.params })
    else if (event.key === '[') scene.stepRun(-1)
    else if (event.key === ']') scene.stepRun(1)
    else if (event.key === '/') view.toggle('find')
    else if (event.key === '?') view.toggle('keys')
    else return
    event.preventDefault()
  })
}
