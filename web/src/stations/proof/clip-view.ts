import { computed, ref, watch } from 'vue'
import type { TimeRange } from '@iron-hush/core/model'

/** Shortest stretch that can be shown, s. */
const shortestS = 0.002
/** Time shown around a place, s. */
const aroundS = 0.4

/** Which part of a clip is in sight. */
export function useClipView(lengthS: () => number) {
  const fromS = ref(0)
  const toS = ref(lengthS())
  watch(lengthS, () => showAll())
  const isWhole = computed(() => fromS.value <= 0 && toS.value >= lengthS())

  function set(from: number, spanS: number): void {
    const span = Math.min(lengthS(), Math.max(shortestS, spanS))
    fromS.value = Math.max(0, Math.min(lengthS() - span, from))
    toS.value = fromS.value + span
  }
  function showAll(): void {
    set(0, lengthS())
  }
  /** @param share of the view, 0 to 1, that stays where it is */
  function zoom(factor: number, share = 0.5): void {
    const span = toS.value - fromS.value
    const fixed = fromS.value + share * span
    const next = Math.min(lengthS(), Math.max(shortestS, span * factor))
    set(fixed - share * next, next)
  }
  /** @param share of what is in sight */
  function pan(share: number): void {
    const span = toS.value - fromS.value
    set(fromS.value + share * span, span)
  }
  function show(range: TimeRange): void {
    const span = range.toS - range.fromS
    const around = Math.max(aroundS, span * 0.5)
    set(range.fromS - around, span + 2 * around)
  }
  return { fromS, toS, isWhole, showAll, zoom, pan, show }
}
