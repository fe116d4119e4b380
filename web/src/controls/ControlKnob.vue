<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { type Control, positionName, positionsOf } from '@iron-hush/core/model'
import ControlValue from './ControlValue.vue'
import { useTurning } from './turning'

const props = defineProps<{
  control: Extract<Control, { kind: 'knob' }>
  position: number
  ghost?: number
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()
const value = useTemplateRef('value')

const span = computed(() => (positionsOf(props.control).at(-1) as number) - props.control.minimum || 1)
const angle = (position: number) =>
  (-225 + (270 * (position - props.control.minimum)) / span.value) * (Math.PI / 180)
const line = (position: number, from: number, to: number) => {
  const turn = angle(position)
  return {
    x1: 34 + from * Math.cos(turn),
    y1: 34 + from * Math.sin(turn),
    x2: 34 + to * Math.cos(turn),
    y2: 34 + to * Math.sin(turn),
  }
}
const ticks = computed(() =>
  Array.from({ length: 21 }, (_, index) => ({
    at: props.control.minimum + (span.value * index) / 20,
    major: index % 5 === 0,
  })),
)
const { keydown, pointerdown, wheel } = useTurning(
  () => props.control,
  () => props.position,
  (position) => emit('turn', position),
  () => void value.value?.open(),
)
</script>

<template>
  <div class="knob">
    <div
      class="turns"
      :class="{ locked }"
      role="slider"
      tabindex="0"
      :aria-label="label"
      :aria-valuemin="control.minimum"
      :aria-valuemax="control.maximum"
      :aria-valuenow="position"
      :aria-valuetext="positionName(control, position)"
      :aria-disabled="locked"
      :title="locked ? 'Locked' : 'Turn it by arrows or by dragging; = to type, double click to reset'"
      @keydown="keydown"
      @pointerdown="pointerdown"
      @dblclick="emit('turn', control.initial)"
      @wheel="wheel"
    >
      <svg viewBox="0 0 68 62" width="68" height="62" aria-hidden="true">
        <line
          v-for="tick in ticks"
          :key="tick.at"
          v-bind="line(tick.at, 25, tick.major ? 30 : 28)"
          stroke="var(--ink)"
          :stroke-width="tick.major ? 1.3 : 0.7"
        />
        <circle cx="34" cy="34" r="20" fill="var(--sheet)" stroke="var(--ink)" stroke-width="1.4" />
        <line
          v-if="ghost !== undefined && ghost !== position"
          v-bind="line(ghost, 6, 24)"
          stroke="var(--verdigris)"
          stroke-width="3"
          stroke-dasharray="3 2"
        />
        <line v-bind="line(position, 6, 20)" stroke="var(--ink)" stroke-width="3" />
      </svg>
    </div>
    <ControlValue ref="value" :control :position :label :locked @turn="emit('turn', $event)" />
  </div>
</template>

<style scoped>
.knob {
  display: grid;
  justify-items: center;
}
.turns {
  cursor: ns-resize;
  touch-action: none;
  user-select: none;
}
.locked {
  cursor: not-allowed;
}
.locked svg {
  opacity: 0.4;
}
</style>
