import { computed, onUnmounted, shallowRef, watch } from 'vue'
import type { Odds } from '@iron-hush/core/balance'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { type Job, startOdds } from '../../workers/compute'

const draws = 2000
/** Delay between the last turn and the redraw, ms. */
const settleMs = 500

/** How sure the selected run is: worked out again whenever the hands rest. */
export function useOdds() {
  const scene = useScene()
  const gear = useGear()
  const odds = shallowRef<Odds>()
  let job: Job<Odds> | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  function stop(): void {
    clearTimeout(timer)
    job?.cancel()
    job = undefined
  }
  async function draw(): Promise<void> {
    if (!scene.patch || !scene.levels) return
    const mine = startOdds(scene.patch, gear.all, draws, 1)
    job = mine
    const found = await mine.result
    if (job === mine) odds.value = found
  }
  watch(
    () => scene.levels,
    () => {
      stop()
      odds.value = undefined
      timer = setTimeout(() => void draw(), settleMs)
    },
    { immediate: true },
  )
  onUnmounted(stop)

  /** Of the recording that the selected run ends in. */
  const mine = computed(() =>
    odds.value?.tracks.find(({ box, track }) => box === scene.run?.end.box && track === scene.run.end.track),
  )
  return { odds, mine }
}

/** Chances of clipping that may be asked for. */
export const chanceLimits = [
  { limit: 0.05, words: 'one take in 20' },
  { limit: 0.01, words: 'one take in 100' },
  { limit: 0.001, words: 'one take in 1000' },
] as const
