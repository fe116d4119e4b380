import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import type { useClipView } from './clip-view'

/** Wheel, pointers and keys that look closer and move along a wave. */
export function useWaveGestures(
  area: Readonly<Ref<HTMLElement | null>>,
  view: ReturnType<typeof useClipView>,
) {
  const shareAt = (clientX: number): number => {
    const box = area.value?.getBoundingClientRect()
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0.5
  }
  function wheel(event: WheelEvent): void {
    // a wheel that is not meant for the wave scrolls the page: along with Ctrl or sideways it is
    if (event.ctrlKey) view.zoom(event.deltaY > 0 ? 1.25 : 0.8, shareAt(event.clientX))
    else if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) view.pan(event.deltaX / 1000)
    else return
    event.preventDefault()
  }
  useEventListener(area, 'wheel', wheel, { passive: false })

  /** Pulling moves along; two fingers look closer. */
  const touches = new Map<number, number>()
  function down(event: PointerEvent): void {
    touches.set(event.pointerId, event.clientX)
    area.value?.setPointerCapture(event.pointerId)
  }
  function move(event: PointerEvent): void {
    const before = touches.get(event.pointerId)
    const box = area.value?.getBoundingClientRect()
    if (before === undefined || !box) return
    const [other] = [...touches].filter(([id]) => id !== event.pointerId)
    touches.set(event.pointerId, event.clientX)
    if (!other) return view.pan((before - event.clientX) / box.width)
    const [was, is] = [Math.abs(before - other[1]), Math.abs(event.clientX - other[1])]
    if (was > 8 && is > 8) view.zoom(was / is, shareAt((event.clientX + other[1]) / 2))
  }
  const up = (event: PointerEvent) => touches.delete(event.pointerId)

  function key(event: KeyboardEvent): void {
    const acts: Record<string, () => void> = {
      '+': () => view.zoom(0.5),
      '-': () => view.zoom(2),
      '0': () => view.showAll(),
      ArrowLeft: () => view.pan(-0.2),
      ArrowRight: () => view.pan(0.2),
    }
    const act = acts[event.key]
    if (!act || event.ctrlKey || event.metaKey || event.altKey) return
    event.preventDefault()
    event.stopPropagation()
    act()
  }
  return { down, move, up, key }
}
