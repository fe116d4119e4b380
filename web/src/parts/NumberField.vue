<script setup lang="ts">
import { ref, watch } from 'vue'
import { typedAmount, withMinus } from '@iron-hush/core/units'

/**
 * A number with its unit, typed as people type it. What cannot be used stays in sight with a sentence, and changes
 * nothing; so does an emptied field, unless nothing is an answer too.
 */
const props = withDefaults(
  defineProps<{
    modelValue: number | null
    min?: number
    max?: number
    unit?: string
    label: string
    step?: number
    decimals?: number
    /** It may be empty, meaning no number. */
    empty?: boolean
    /** Stands by itself in a form, not in a sentence. */
    boxed?: boolean
    /** Every number typed is a separate entry: the field is empty again afterwards. */
    entry?: boolean
    placeholder?: string
    disabled?: boolean
  }>(),
  { min: -Infinity, max: Infinity, unit: '', step: 1, decimals: 1, placeholder: undefined },
)
const emit = defineEmits<{ 'update:modelValue': [value: number]; emptied: [] }>()

const rounded = (value: number) => Number(value.toFixed(props.decimals))
const shown = () =>
  props.modelValue === null ? '' : `${withMinus(rounded(props.modelValue))} ${props.unit}`.trim()
/** Allowed values, in words. */
function within(): string {
  const unit = props.unit && ` ${props.unit}`
  if (props.min === -Infinity && props.max === Infinity) return `Type a number${unit && ` in${unit}`}`
  if (props.max === Infinity) return `Use ${withMinus(props.min)}${unit} or more`
  return `Use ${withMinus(props.min)} to ${withMinus(props.max)}${unit}`
}
const stays = () => (props.modelValue === null ? '' : `; it stays ${shown()}`)
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
  else if (props.empty && text.value.trim() === '') {
    refused.value = ''
    emit('emptied')
  } else {
    const value = typedAmount(text.value, props.unit)
    if (value === undefined) refused.value = `Type a number${props.unit && ` in ${props.unit}`}${stays()}.`
    else if (value < props.min || value > props.max) refused.value = `${within()}${stays()}.`
    else put(value)
  }
}
function put(value: number): void {
  refused.value = ''
  // a refused value stays visible; an accepted one comes back as the new value
  if (value === props.modelValue) text.value = shown()
  else {
    // before it is emitted: leaving the field would emit it again
    if (props.entry) text.value = shown()
    emit('update:modelValue', value)
  }
}
const stepBy = (steps: number) =>
  put(rounded(Math.min(props.max, Math.max(props.min, (props.modelValue ?? 0) + steps * props.step))))
function giveUp(): void {
  text.value = shown()
  refused.value = ''
}
</script>

<template>
  <span class="field" :class="{ boxed }">
    <input
      v-model="text"
      type="text"
      role="spinbutton"
      autocomplete="off"
      :aria-label="label"
      :aria-valuenow="modelValue ?? undefined"
      :aria-valuemin="min === -Infinity ? undefined : min"
      :aria-valuemax="max === Infinity ? undefined : max"
      :placeholder
      :disabled
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
/* as wide as what is in it, where the browser can */
@supports (field-sizing: content) {
  .field:not(.boxed) input {
    width: auto !important;
    min-width: 44px;
    field-sizing: content;
  }
}
.boxed input {
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--sheet);
  font-size: var(--body);
  font-weight: 400;
}
input:disabled {
  opacity: 0.5;
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
