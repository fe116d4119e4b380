<script setup lang="ts">
import { computed } from 'vue'
import type { Control } from '@iron-hush/core/model'
import TurningFace from './TurningFace.vue'

const props = defineProps<{
  control: Extract<Control, { kind: 'scale' }>
  position: number
  ghost?: number
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()

/** More steps than can be seen are drawn as every n-th. */
const every = computed(() => Math.ceil(props.control.steps / 40))
const bars = computed(() =>
  Array.from({ length: Math.ceil(props.control.steps / every.value) }, (_, index) => index * every.value),
)
const near = (bar: number, position: number | undefined) =>
  position !== undefined && position >= bar && position < bar + every.value
</script>

<template>
  <TurningFace
    :control
    :position
    :lowest="0"
    :highest="control.steps - 1"
    :label
    :locked
    @turn="emit('turn', $event)"
  >
    <svg :viewBox="`0 0 ${bars.length * 4} 62`" preserveAspectRatio="none" height="62" aria-hidden="true">
      <rect
        v-for="(bar, index) in bars"
        :key="bar"
        :x="index * 4 + 0.8"
        :y="near(bar, ghost) || near(bar, position) ? 22 : index % 8 === 0 ? 28 : 34"
        width="2.3"
        :height="52 - (near(bar, ghost) || near(bar, position) ? 22 : index % 8 === 0 ? 28 : 34)"
        :fill="near(bar, ghost) ? 'var(--verdigris)' : bar <= position ? 'var(--ink)' : 'var(--rule)'"
      />
    </svg>
  </TurningFace>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 130px;
}
</style>
