<script setup lang="ts" generic="T extends string | number">
import Select from 'primevue/select'

/** A choice inside a sentence, changed in place. */
defineProps<{ modelValue: T; options: { value: T; name: string }[]; label: string }>()
const emit = defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
  <Select
    class="inline"
    :model-value
    :options
    option-label="name"
    option-value="value"
    :aria-label="label"
    @update:model-value="emit('update:modelValue', $event)"
  />
</template>

<style scoped>
.inline {
  border-width: 0 0 1.5px;
  border-color: var(--brass);
  background: var(--brass-wash);
  vertical-align: baseline;
  display: inline-flex;
  align-items: center;
  height: 29px;
  border-radius: 2px 2px 0 0;
}
.inline :deep(.p-select-label) {
  padding: 0 2px 0 6px;
  font-size: var(--lead);
  font-weight: 600;
}
.inline :deep(.p-select-dropdown) {
  width: 22px;
}
</style>
