<script setup lang="ts">
import { computed } from 'vue'
import { emptyOf, fieldWords, type FormSchema } from '@iron-hush/core/model'
import SchemaField from './SchemaField.vue'

/** The named parts of something: those it has, each changed in place, and those that it may have. */
const props = withDefaults(
  defineProps<{
    schema: FormSchema
    value: Record<string, unknown>
    label: string
    field?: string
    adds?: string
  }>(),
  { field: '', adds: 'Add\u2026' },
)
const emit = defineEmits<{ change: [value: Record<string, unknown>] }>()

const known = computed(() => props.schema.properties ?? {})
const free = computed(() =>
  typeof props.schema.additionalProperties === 'object' ? props.schema.additionalProperties : undefined,
)
const schemaOf = (key: string): FormSchema => known.value[key] ?? free.value ?? {}
const shown = computed(() => [
  ...Object.keys(known.value).filter((key) => key in props.value && known.value[key]?.const === undefined),
  ...Object.keys(props.value).filter((key) => !(key in known.value)),
])
const addable = computed(() => Object.keys(known.value).filter((key) => !(key in props.value)))
const nameOf = (key: string) => schemaOf(key).title ?? fieldWords(key).name
/** A figure with its source is in the unit of the figure. */
const unitFieldOf = (key: string) => (key === 'value' ? props.field : key)
const isRequired = (key: string) => props.schema.required?.includes(key) ?? false

const put = (key: string, value: unknown) => emit('change', { ...props.value, [key]: value })
function add(key: string): void {
  if (key) put(key, emptyOf(schemaOf(key)))
}
function remove(key: string): void {
  const { [key]: _, ...rest } = props.value
  emit('change', rest)
}
/** A record has keys of the user's own, as the positions of a switch. */
function rename(key: string, event: Event): void {
  const to = (event.target as HTMLInputElement).value.trim()
  if (!to || to in props.value) return
  emit(
    'change',
    Object.fromEntries(Object.entries(props.value).map(([each, value]) => [each === key ? to : each, value])),
  )
}
</script>

<template>
  <span class="fields">
    <span v-for="key in shown" :key="key" class="row">
      <input
        v-if="free && !(key in known)"
        class="key"
        :value="key"
        :aria-label="`Name of ${key} in ${label}`"
        @change="rename(key, $event)"
      />
      <span v-else class="name" :title="schemaOf(key).description">{{ nameOf(key) }}</span>
      <button
        v-if="!isRequired(key)"
        type="button"
        :aria-label="`Remove ${nameOf(key)} of ${label}`"
        title="Remove"
        @click="remove(key)"
      >
        &times;
      </button>
      <SchemaField
        :schema="schemaOf(key)"
        :value="value[key]"
        :field="unitFieldOf(key)"
        :label="`${nameOf(key)} of ${label}`"
        @change="put(key, $event)"
      />
    </span>
    <select
      v-if="addable.length"
      value=""
      :aria-label="`Add to ${label}`"
      @change="add(($event.target as HTMLSelectElement).value)"
    >
      <option value="">{{ adds }}</option>
      <option v-for="key in addable" :key="key" :value="key">{{ nameOf(key) }}</option>
    </select>
    <button v-if="free" type="button" class="more" @click="put(`new-${shown.length + 1}`, emptyOf(free))">
      Add
    </button>
  </span>
</template>

<style scoped>
.fields {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: baseline;
}
.row {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: baseline;
}
.name {
  color: var(--quiet);
  font-size: var(--small);
  font-stretch: 85%;
}
.key,
select {
  border: 0;
  border-bottom: 1.5px solid var(--rule);
  background: var(--sheet);
  padding: 2px 6px;
  min-height: 26px;
}
button {
  border: 0;
  background: none;
  color: var(--quiet);
  min-width: 24px;
  min-height: 24px;
  cursor: pointer;
}
.more {
  text-decoration: underline;
}
</style>
