<script setup lang="ts">
import { useTemplateRef } from 'vue'
import type { Control } from '@iron-hush/core/model'

const props = defineProps<{
  control: Extract<Control, { kind: 'switch' }>
  position: string
  ghost?: string
  label: string
  locked?: boolean
}>()
const emit = defineEmits<{ turn: [position: number | string] }>()
const buttons = useTemplateRef('buttons')

function keydown(event: KeyboardEvent): void {
  const by = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const index = props.control.positions.findIndex(({ id }) => id === props.position) + by
  const next = props.control.positions[index]
  if (!next || props.locked) return
  emit('turn', next.id)
  buttons.value?.[index]?.focus()
}
</script>

<template>
  <div class="switch" role="radiogroup" :aria-label="label" @keydown="keydown">
    <button
      v-for="each in control.positions"
      :key="each.id"
      ref="buttons"
      type="button"
      role="radio"
      class="figure"
      :aria-checked="each.id === position"
      :disabled="locked"
      :tabindex="each.id === position ? 0 : -1"
      :class="{ on: each.id === position, ghost: each.id === ghost && ghost !== position }"
      @click="emit('turn', each.id)"
    >
      {{ each.name }}
    </button>
  </div>
</template>

<style scoped>
.switch {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  padding: 16px 0 14px;
  max-width: 100%;
}
button {
  border: 1px solid var(--ink);
  background: var(--sheet);
  padding: 4px 5px;
  margin: 0 -1px -1px 0;
  cursor: pointer;
  min-width: 24px;
  min-height: 28px;
  white-space: nowrap;
  letter-spacing: -0.04em;
}
.on {
  background: var(--ink);
  color: var(--sheet);
}
button:disabled {
  cursor: not-allowed;
  opacity: 0.5;
}
.ghost {
  outline: 2px dashed var(--verdigris);
  outline-offset: -2px;
}
</style>
