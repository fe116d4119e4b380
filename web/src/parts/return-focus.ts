import { nextTick, onUnmounted } from 'vue'

/** Gives the focus back to where it was when the panel opened, unless the person has gone elsewhere meanwhile. */
export function useReturnFocus(): void {
  const before = document.activeElement
  onUnmounted(() =>
    nextTick(() => {
      const lost = !document.activeElement || document.activeElement === document.body
      if (lost && before instanceof HTMLElement && before.isConnected) before.focus()
    }),
  )
}
