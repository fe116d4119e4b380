<script setup lang="ts">
import { computed } from 'vue'
import { type Control, positionsOf } from '@iron-hush/core/model'
import TurningFace from './TurningFace.vue'

const props = defineProps<{
  control: Extract<Control, { kind: 'knob' }>
  position: number
  ghost?: number
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()

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
</script>

<template>
  <TurningFace
    :control
    :position
    :lowest="control.minimum"
    :highest="control.maximum"
    :label
    :locked
    @turn="emit('turn', $event)"
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
  </TurningFace>
</template>
