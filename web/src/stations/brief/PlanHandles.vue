<script setup lang="ts">
import { distance } from '../../state/lengths'

/** Handles over the plan by which places of microphones are dragged nearer and farther, or moved by keys. */
export interface Handle {
  id: string
  name: string
  distanceM: number
  x: number
  y: number
}
const props = defineProps<{
  handles: Handle[]
  mouth: { x: number; y: number }
  /** Pixels in a metre. */
  scale: number
  imperial: boolean
}>()
const emit = defineEmits<{ move: [place: string, distanceM: number]; grab: []; release: [] }>()

const nearestM = 0.01
const farthestM = 200
const stepM = 0.05
/** To the centimetre near by, to five of them farther off. */
function rounded(metres: number): number {
  const grain = metres < 1 ? 0.01 : 0.05
  const held = Math.min(farthestM, Math.max(nearestM, metres))
  return Number((Math.round(held / grain) * grain).toFixed(2))
}
function moveTo({ id, distanceM }: Handle, metres: number): void {
  const to = rounded(metres)
  if (to !== distanceM) emit('move', id, to)
}

function drag(event: PointerEvent, handle: Handle): void {
  const target = event.currentTarget as HTMLElement
  const plan = target.parentElement?.getBoundingClientRect()
  if (!plan) return
  target.setPointerCapture(event.pointerId)
  emit('grab')
  const move = ({ clientX, clientY }: PointerEvent) =>
    moveTo(
      handle,
      Math.hypot(clientX - plan.left - props.mouth.x, clientY - plan.top - props.mouth.y) / props.scale,
    )
  const end = () => {
    target.removeEventListener('pointermove', move)
    emit('release')
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('lostpointercapture', end, { once: true })
}

const directions: Record<string, 1 | -1> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }
function press(event: KeyboardEvent, handle: Handle): void {
  const direction = directions[event.key]
  if (!direction) return
  event.preventDefault()
  event.stopPropagation()
  moveTo(handle, handle.distanceM + direction * stepM * (event.shiftKey ? 10 : 1))
}
</script>

<template>
  <div
    v-for="handle in handles"
    :key="handle.id"
    class="handle"
    role="slider"
    tabindex="0"
    :aria-label="`Distance of ${handle.name}`"
    :aria-valuenow="handle.distanceM"
    :aria-valuemin="nearestM"
    :aria-valuemax="farthestM"
    :aria-valuetext="distance(handle.distanceM, imperial)"
    :style="{ left: `${handle.x}px`, top: `${handle.y}px` }"
    @pointerdown.prevent="drag($event, handle)"
    @keydown="press($event, handle)"
  />
</template>

<style scoped>
.handle {
  position: absolute;
  width: 44px;
  height: 44px;
  margin: -22px 0 0 -22px;
  border-radius: 2px;
  cursor: grab;
  touch-action: none;
}
.handle:active {
  cursor: grabbing;
}
.handle:hover,
.handle:focus-visible {
  outline: 2px solid var(--brass);
  outline-offset: -10px;
}
</style>
