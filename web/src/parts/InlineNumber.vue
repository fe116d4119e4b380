<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'

/** A number with its unit inside a sentence, changed where it stands. */
defineProps<{
  modelValue: number
  min: number
  max: number
  suffix: string
  label: string
  step?: number
  decimals?: number
}>()
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()
</script>

<template>
  <InputNumber
    class="inline"
    :model-value
    :min
    :max
    :step
    :max-fraction-digits="decimals"
    :suffix
    :aria-label="label"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>

<style scoped>
.inline {
  height: 29px;
  border-bottom: 1.5px solid var(--brass);
  background: var(--brass-wash);
  vertical-align: baseline;
  display: inline-flex;
  border-radius: 2px 2px 0 0;
}
.inline :deep(input) {
  border: 0;
  background: none;
  padding: 0 6px;
  font-size: 15px;
  font-weight: 600;
  width: 74px;
}
</style>
