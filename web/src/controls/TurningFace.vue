<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { type Control, positionName } from '@iron-hush/core/model'
import ControlValue from './ControlValue.vue'
import { useTurning } from './turning'

/** Behaviour of every turning control: keys, dragging, wheel, typing and reset. Drawn by its slot. */
const props = defineProps<{
  control: Extract<Control, { kind: 'knob' | 'scale' }>
  position: number
  lowest: number
  highest: number
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()
const value = useTemplateRef('value')
const { keydown, pointerdown, wheel } = useTurning(
  () => props.control,
  () => props.position,
  (position) => emit('turn', position),
  () => void value.value?.open(),
)
</script>

<template>
  <div class="face">
    <div
      class="turns"
      :class="{ locked }"
      role="slider"
      tabindex="0"
      :aria-label="label"
      :aria-valuemin="lowest"
      :aria-valuemax="highest"
      :aria-valuenow="position"
      :aria-valuetext="positionName(control, position)"
      :aria-disabled="locked"
      :title="
        locked
          ? 'Locked'
          : 'Turn it with the arrow keys or by dragging; = to type a value, double-click to reset'
      "
      @keydown="keydown"
      @pointerdown="pointerdown"
      @dblclick="emit('turn', control.initial)"
      @wheel="wheel"
    >
      <slot />
    </div>
    <ControlValue ref="value" :control :position :label :locked @turn="emit('turn', $event)" />
  </div>
</template>

<style scoped>
.face {
  display: grid;
  justify-items: center;
  width: 100%;
}
.turns {
  max-width: 100%;
  cursor: ns-resize;
  touch-action: none;
  user-select: none;
}
.locked {
  cursor: not-allowed;
}
.locked :slotted(svg) {
  opacity: 0.4;
}
</style>
