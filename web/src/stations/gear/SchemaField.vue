<script setup lang="ts">
import { computed } from 'vue'
import {
  type Connector,
  connectorNames,
  emptyOf,
  type FormSchema,
  fieldWords,
  variantName,
  variantOf,
  variantsOf,
} from '@iron-hush/core/model'
import NumberField from '../../parts/NumberField.vue'
import SchemaFields from './SchemaFields.vue'
import SchemaList from './SchemaList.vue'

/** A part of the format, drawn as what it may be. It changes nothing itself: the new value goes up. */
const props = defineProps<{ schema: FormSchema; value: unknown; field: string; label: string }>()
const emit = defineEmits<{ change: [value: unknown] }>()

const variants = computed(() => variantsOf(props.schema))
const variant = computed(() => (variants.value ? variantOf(variants.value, props.value) : 0))
const shown = computed(() => variants.value?.[variant.value] ?? props.schema)
/** A level counts to a tenth of a dB, whatever it was typed in; a click of a control may be finer. */
const decimals = computed(() => {
  if (shown.value.type === 'integer') return 0
  return /^dB\S/.test(fieldWords(props.field).unit) ? 1 : 4
})
const enumName = (value: string | number) => connectorNames[value as Connector] ?? value
const text = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <span class="field">
    <select
      v-if="variants && variants.length > 1"
      :aria-label="`Kind of ${label}`"
      :value="variant"
      @change="emit('change', emptyOf(variants[Number(text($event))]!))"
    >
      <option v-for="(each, at) in variants" :key="at" :value="at">{{ variantName(each) }}</option>
    </select>
    <SchemaField
      v-if="variantsOf(shown)"
      :schema="shown"
      :value
      :field
      :label
      @change="emit('change', $event)"
    />
    <template v-else-if="shown.const !== undefined"></template>
    <select
      v-else-if="shown.enum"
      :aria-label="label"
      :value="value"
      @change="
        emit(
          'change',
          shown.enum.find((each) => `${each}` === text($event)),
        )
      "
    >
      <option v-for="each in shown.enum" :key="each" :value="each">{{ enumName(each) }}</option>
    </select>
    <NumberField
      v-else-if="shown.type === 'number' || shown.type === 'integer'"
      :model-value="Number(value ?? 0)"
      :min="shown.minimum ?? -1e6"
      :max="shown.maximum ?? 1e6"
      :decimals
      :unit="fieldWords(field).unit"
      :label
      @update:model-value="emit('change', $event)"
    />
    <input
      v-else-if="shown.type === 'boolean'"
      type="checkbox"
      :aria-label="label"
      :checked="value === true"
      @change="emit('change', ($event.target as HTMLInputElement).checked)"
    />
    <SchemaList
      v-else-if="shown.type === 'array'"
      :schema="shown"
      :value="Array.isArray(value) ? value : []"
      :field
      :label
      @change="emit('change', $event)"
    />
    <SchemaFields
      v-else-if="shown.type === 'object'"
      :schema="shown"
      :value="(value ?? {}) as Record<string, unknown>"
      :field
      :label
      @change="emit('change', $event)"
    />
    <input
      v-else
      :value="value"
      :maxlength="shown.maxLength ?? 200"
      :aria-label="label"
      @change="emit('change', text($event))"
    />
  </span>
</template>

<style scoped>
.field {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: baseline;
}
select,
input:not([type]) {
  border: 0;
  border-bottom: 1.5px solid var(--brass);
  background: var(--brass-wash);
  padding: 2px 6px;
  min-height: 26px;
}
@media (max-width: 700px) {
  select,
  input:not([type]) {
    min-height: 44px;
  }
}
</style>
