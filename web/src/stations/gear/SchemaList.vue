<script setup lang="ts">
import { computed } from 'vue'
import { emptyOf, fieldWords, type FormSchema } from '@iron-hush/core/model'
import SchemaField from './SchemaField.vue'

/** A list of parts, each changed, moved up or removed in place. */
const props = defineProps<{ schema: FormSchema; value: unknown[]; field: string; label: string }>()
const emit = defineEmits<{ change: [value: unknown[]] }>()

const isTuple = computed(() => props.schema.prefixItems !== undefined)
const schemaAt = (at: number): FormSchema => props.schema.prefixItems?.[at] ?? props.schema.items ?? {}
const canAdd = computed(() => !isTuple.value && props.value.length < (props.schema.maxItems ?? 64))
const canRemove = computed(() => !isTuple.value && props.value.length > (props.schema.minItems ?? 0))
/** What one of the list goes by: its own name, or its place. */
function nameAt(at: number): string {
  const each = props.value[at] as { name?: string; id?: string; kind?: string } | undefined
  const own = typeof each === 'object' ? (each?.name ?? each?.id ?? each?.kind) : undefined
  return own ?? `${one.value} ${at + 1}`
}
/** What one of the list is called: the list without its plural. */
const one = computed(() => fieldWords(props.field).name.replace(/(?<=\w\w)s$/, ''))
/** Plain figures stand side by side, parts with names of their own below each other. */
const stacked = computed(() => props.value.some((each) => typeof each === 'object' && !Array.isArray(each)))

const put = (at: number, value: unknown) => emit('change', props.value.with(at, value))
const add = () => emit('change', [...props.value, emptyOf(props.schema.items ?? {})])
const remove = (at: number) => emit('change', props.value.toSpliced(at, 1))
function up(at: number): void {
  emit('change', props.value.toSpliced(at - 1, 2, props.value[at], props.value[at - 1]))
}
</script>

<template>
  <span class="list" :class="{ stacked }">
    <span v-for="(each, at) in value" :key="at" class="item">
      <b v-if="stacked">{{ nameAt(at) }}</b>
      <SchemaField
        :schema="schemaAt(at)"
        :value="each"
        :field
        :label="isTuple ? `${label}, ${at + 1}` : nameAt(at)"
        @change="put(at, $event)"
      />
      <button v-if="stacked && at > 0" type="button" :aria-label="`Move ${nameAt(at)} up`" @click="up(at)">
        &uarr;
      </button>
      <button v-if="canRemove" type="button" :aria-label="`Remove ${nameAt(at)}`" @click="remove(at)">
        Remove
      </button>
    </span>
    <button v-if="canAdd" type="button" :aria-label="`Add to ${label}`" @click="add()">Add {{ one }}</button>
  </span>
</template>

<style scoped>
.list {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: baseline;
}
.stacked {
  display: grid;
  gap: 6px;
  width: 100%;
}
.item {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: baseline;
}
.stacked > .item {
  border-left: 2px solid var(--rule);
  padding: 4px 0 4px 10px;
}
b {
  font-stretch: 88%;
  min-width: 90px;
}
button {
  border: 0;
  background: none;
  color: var(--quiet);
  font-size: var(--small);
  text-decoration: underline;
  min-height: 24px;
  justify-self: start;
  cursor: pointer;
}
</style>
