import { ref, shallowRef } from 'vue'
import { byWorth, type Cure } from '@iron-hush/core/balance'
import { cureWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { type Job, startCures } from '../../workers/compute'

/** Cures for the chain, shown as they are found. */
export function useCuring() {
  const scene = useScene()
  const gear = useGear()
  const cures = shallowRef<Cure[]>()
  /** Share of the candidates that were tried. */
  const tried = ref(0)
  const curing = ref(false)
  let job: Job<Cure[]> | undefined

  function cure(): void {
    stopCuring()
    cures.value = []
    tried.value = 0
    curing.value = true
    // it may be stopped before the shelf is there
    gear.whole(() => curing.value && !job && void tryAll())
  }
  async function tryAll(): Promise<void> {
    if (!scene.patch) return
    const mine = startCures(scene.patch, gear.all, (share, found) => {
      if (job !== mine) return
      tried.value = share
      if (found) cures.value = [...(cures.value ?? []), found].sort(byWorth)
    })
    job = mine
    try {
      const all = await mine.result
      if (job === mine) cures.value = all
    } finally {
      if (job === mine) curing.value = false
    }
  }
  function stopCuring(): void {
    job?.cancel()
    job = undefined
    curing.value = false
  }
  function forgetCures(): void {
    stopCuring()
    cures.value = undefined
  }
  const takeCure = ({ change, edits }: Cure) => scene.change(edits, cureWords(change))
  return { cures, tried, curing, cure, stopCuring, forgetCures, takeCure }
}
