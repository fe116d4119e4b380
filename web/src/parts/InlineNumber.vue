<script setup lang="ts">
import { ref, watch } from 'vue'
import { typedAmount, withMinus } from '@iron-hush/core/units'

/** A number with its unit inside a sentence, changed where it stands. What cannot be used stays in sight and changes nothing. */
const props = withDefaults(
  defineProps<{
    modelValue: number
    min: number
    max: number
    unit: string
    label: string
    step?: number
    decimals?: number
  }>(),
  { step: 1, decimals: 1 },
)
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()

const rounded = (value: number) => Number(value.toFixed(props.decimals))
const shown = () => `${withMinus(rounded(props.modelValue))} ${props.unit}`.trim()
const text = ref(shown())
const refused = ref('')
watch(
  () => props.modelValue,
  () => {
    text.value = shown()
    refused.value = ''
  },
)

function take(): void {
  if (text.value === shown()) refused.value = ''
  else {
    const value = typedAmount(text.value, props.unit)
    if (value === undefined) refused.value = `Type a number in ${props.unit}; it stays ${shown()}.`
    else if (value < props.min || value > props.max)
      refused.value = `Use ${props.min} to ${props.max} ${props.unit}; it stays ${shown()}.`
    else put(value)
  }
}
function put(value: number): void {
  refused.value = ''
  if (value !== props.modelValue) emit('update:modelValue', value)
  text.value = shown()
}
const stepBy = (steps: number) =>
  put(rounded(Math.min(props.max, Math.max(props.min, props.modelValue + steps * props.step))))
function giveUp(): void {
  text.value = shown()
  refused.value = ''
}
</script>

<template>
  <span class="field">
    <input
      v-model="text"
      type="text"
      role="spinbutton"
      autocomplete="off"
      :aria-label="label"
      :aria-valuenow="modelValue"
      :aria-valuemin="min"
      :aria-valuemax="max"
      :aria-valuetext="shown()"
      :aria-invalid="refused !== ''"
      :title="refused"
      :style="{ width: `${Math.max(6, text.length) + 2}ch` }"
      @focus="($event.target as HTMLInputElement).select()"
      @change="take"
      @keydown.enter="take"
      @keydown.escape="giveUp"
      @keydown.up.prevent="stepBy($event.shiftKey ? 10 : 1)"
      @keydown.down.prevent="stepBy($event.shiftKey ? -10 : -1)"
    />
    <span v-if="refused" role="alert" class="refused">{{ refused }}</span>
  </span>
</template>

<style scoped>
.field {
  position: relative;
  display: inline-flex;
}
input {
  height: 29px;
  border: 0;
  border-bottom: 1.5px solid var(--brass);
  border-radius: 2px 2px 0 0;
  background: var(--brass-wash);
  padding: 0 6px;
  font-size: var(--lead);
  font-weight: 600;
}
[aria-invalid='true'] {
  border-color: var(--iron);
}
.refused {
  position: absolute;
  top: 100%;
  left: 0;
  z-index: 2;
  width: max-content;
  max-width: 260px;
  background: var(--sheet);
  border: 1px solid var(--iron);
  padding: 2px 6px;
  font-size: var(--small);
  line-height: 1.3;
}
</style>
