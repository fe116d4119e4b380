<script setup lang="ts">
import { computed } from 'vue'
import type { Control, Position } from '@iron-hush/core/model'
import ControlKnob from './ControlKnob.vue'
import ControlScale from './ControlScale.vue'
import ControlSwitch from './ControlSwitch.vue'

/** A control as the real box has it: knob, numbered scale or switch. */
const props = defineProps<{
  control: Control
  position: Position
  ghost?: Position
  label: string
  locked?: boolean
}>()
const numberGhost = computed(() => props.ghost as number | undefined)
const nameGhost = computed(() => props.ghost as string | undefined)
const emit = defineEmits<{ turn: [position: Position] }>()
const turn = (position: Position) => {
  if (!props.locked) emit('turn', position)
}
</script>

<template>
  <ControlKnob
    v-if="control.kind === 'knob'"
    :control
    :position="Number(position)"
    :ghost="numberGhost"
    :label
    :locked
    @turn="turn"
  />
  <ControlScale
    v-else-if="control.kind === 'scale'"
    :control
    :position="Number(position)"
    :ghost="numberGhost"
    :label
    :locked
    @turn="turn"
  />
  <ControlSwitch
    v-else
    :control
    :position="String(position)"
    :ghost="nameGhost"
    :label
    :locked
    @turn="turn"
  />
</template>
