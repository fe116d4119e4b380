import { type Control, type Position, turned } from '@iron-hush/core/model'

/** Pixels of a drag that make one click. */
const pixelsPerClick = 5
const coarse = 10

/**
 * Turns a knob or scale by arrows (Shift: ten steps), by dragging up and down, and by the wheel while it has focus;
 * `=` begins to type a position.
 */
export function useTurning(
  control: () => Control,
  position: () => Position,
  turn: (to: Position) => void,
  type: () => void,
) {
  function by(steps: number): void {
    const to = turned(control(), position(), steps)
    if (to !== position()) turn(to)
  }
  function keydown(event: KeyboardEvent): void {
    if (event.key === '=' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault()
      return type()
    }
    const direction = {
      ArrowUp: 1,
      ArrowDown: -1,
      PageUp: coarse,
      PageDown: -coarse,
      Home: -100_000,
      End: 100_000,
    }[event.key]
    if (!direction) return
    event.preventDefault()
    event.stopPropagation()
    by(direction * (event.shiftKey ? coarse : 1))
  }
  function pointerdown(event: PointerEvent): void {
    const element = event.currentTarget as HTMLElement
    element.focus()
    element.setPointerCapture(event.pointerId)
    const from = position()
    const startY = event.clientY
    const move = (each: PointerEvent) => {
      const to = turned(control(), from, Math.round((startY - each.clientY) / pixelsPerClick))
      if (to !== position()) turn(to)
    }
    const end = () => element.removeEventListener('pointermove', move)
    element.addEventListener('pointermove', move)
    element.addEventListener('lostpointercapture', end, { once: true })
  }
  function wheel(event: WheelEvent): void {
    if (document.activeElement !== event.currentTarget) return
    event.preventDefault()
    by(event.deltaY < 0 ? 1 : -1)
  }
  return { keydown, pointerdown, wheel }
}
