<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import { type Control, positionName, typedPosition } from '@iron-hush/core/model'

/** Position of a knob or scale; pressed, it becomes a field. */
const props = defineProps<{ control: Control; position: number; label: string; locked?: boolean }>()
const emit = defineEmits<{ turn: [position: number | string] }>()
const field = useTemplateRef('field')
const typing = ref(false)
const refused = ref('')

async function open(): Promise<void> {
  if (props.locked) return
  typing.value = true
  refused.value = ''
  await nextTick()
  field.value?.select()
}
function take(event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const to = typedPosition(props.control, text)
  refused.value = to === undefined ? `“${text}” is not one of its positions; it was left where it was.` : ''
  if (to === undefined) return
  typing.value = false
  if (to !== props.position) emit('turn', to)
}
defineExpose({ open })
</script>

<template>
  <span class="value" @pointerdown.stop @dblclick.stop>
    <input
      v-if="typing"
      ref="field"
      class="figure"
      :value="positionName(control, position)"
      :aria-label="`${label}, position`"
      :aria-invalid="refused !== ''"
      @keydown.stop.enter="take"
      @keydown.stop.escape="typing = false"
      @keydown.stop
      @blur="typing = false"
    />
    <button
      v-else
      type="button"
      class="figure"
      tabindex="-1"
      :title="locked ? 'Locked' : 'Type it'"
      @click="open"
    >
      {{ positionName(control, position) }}
    </button>
    <span v-if="typing && refused" class="refused" role="alert">{{ refused }}</span>
  </span>
</template>

<style scoped>
.value {
  position: relative;
}
button {
  border: 0;
  background: none;
  padding: 2px 4px;
  font-weight: 500;
  white-space: nowrap;
  cursor: text;
}
input {
  width: 9ch;
  border: 1px solid var(--ink);
  background: var(--sheet);
  text-align: center;
}
.refused {
  position: absolute;
  bottom: 100%;
  left: 0;
  z-index: 3;
  width: 180px;
  border: 1px solid var(--iron);
  background: var(--sheet);
  padding: 2px 6px;
  font-size: var(--small);
}
</style>
