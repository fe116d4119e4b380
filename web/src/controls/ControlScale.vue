<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { type Control, positionName } from '@iron-hush/core/model'
import ControlValue from './ControlValue.vue'
import { useTurning } from './turning'

const props = defineProps<{
  control: Extract<Control, { kind: 'scale' }>
  position: number
  ghost?: number
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()
const value = useTemplateRef('value')

/** More steps than can be seen are drawn as every n-th. */
const every = computed(() => Math.ceil(props.control.steps / 40))
const bars = computed(() =>
  Array.from({ length: Math.ceil(props.control.steps / every.value) }, (_, index) => index * every.value),
)
const near = (bar: number, position: number | undefined) =>
  position !== undefined && position >= bar && position < bar + every.value
const { keydown, pointerdown, wheel } = useTurning(
  () => props.control,
  () => props.position,
  (position) => emit('turn', position),
  () => void value.value?.open(),
)
</script>

<template>
  <div class="scale">
    <div
      class="turns"
      :class="{ locked }"
      role="slider"
      tabindex="0"
      :aria-label="label"
      :aria-valuemin="0"
      :aria-valuemax="control.steps - 1"
      :aria-valuenow="position"
      :aria-valuetext="positionName(control, position)"
      :aria-disabled="locked"
      :title="locked ? 'Locked' : 'Turn it by arrows or by dragging; = to type, double click to reset'"
      @keydown="keydown"
      @pointerdown="pointerdown"
      @dblclick="emit('turn', control.initial)"
      @wheel="wheel"
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
    </div>
    <ControlValue ref="value" :control :position :label :locked @turn="emit('turn', $event)" />
  </div>
</template>

<style scoped>
.scale {
  display: grid;
  justify-items: center;
  width: 100%;
}
svg {
  width: 100%;
  max-width: 130px;
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
