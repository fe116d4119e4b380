<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import { type Figure, Gear, type GearFigure, Provenance, withFigure } from '@iron-hush/core/model'
import { sheetUnits } from '@iron-hush/core/units'
import { useGear } from '../../state/gear'
import { statedFigure } from './figures'
import { useReturnFocus } from '../../parts/return-focus'
import NumberField from '../../parts/NumberField.vue'

/** One figure of a thing: its value, how sure it is, where it comes from, and what a maker's sheet prints for it. */
const props = defineProps<{ thing: Gear; figure: GearFigure }>()
const emit = defineEmits<{ close: [] }>()
const shelf = useGear()
const stated = computed(() => statedFigure(props.figure.figure))
const refused = ref('')
const sources = [
  ...Provenance.options.map((id) => ({ id: id, name: id })),
  { id: 'unknown', name: 'not known' },
]

function change(part: Partial<{ value: number; tolerance: number; from: string }>): void {
  const next = { ...stated.value, ...part }
  const from = Provenance.safeParse(next.from)
  const figure: Figure = props.figure.plain
    ? next.value
    : from.success
      ? { value: next.value, tolerance: next.tolerance, from: from.data }
      : 'unknown'
  const thing = Gear.safeParse(withFigure(props.thing, props.figure.path, figure))
  refused.value = thing.success
    ? ''
    : `${next.value} ${props.figure.unit} was refused: it is out of range for ${props.figure.name}. The old figure was kept.`
  if (thing.success) shelf.change(thing.data, `${props.figure.name} of ${props.thing.name}`)
}

const units = computed(() => sheetUnits[props.figure.unit])
const unit = ref('')
const printed = ref<number | null>(null)
watch(
  () => props.figure.path.join(),
  () => {
    unit.value = units.value[1]?.name ?? units.value[0]!.name
    printed.value = null
    refused.value = ''
  },
  { immediate: true },
)
const chosen = computed(() => units.value.find(({ name }) => name === unit.value))
const converted = computed(() => {
  const value = printed.value === null ? undefined : chosen.value?.into(printed.value)
  return value === undefined || !Number.isFinite(value) ? undefined : Number(value.toFixed(2))
})
const take = () =>
  converted.value !== undefined &&
  change({ value: converted.value, from: stated.value.from === 'measured' ? 'measured' : 'datasheet' })
useReturnFocus()
</script>

<template>
  <aside class="figure-panel" aria-label="Selected figure">
    <header>
      <h3>{{ figure.part }}: {{ figure.name }}</h3>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <div class="row">
      <label
        >Value
        <NumberField
          boxed
          :model-value="stated.from === 'unknown' ? null : stated.value"
          :decimals="figure.plain ? 6 : 2"
          :unit="figure.unit"
          label="Value"
          @update:model-value="change({ value: $event, from: 'by hand' })"
      /></label>
      <label v-if="!figure.plain"
        >&plusmn;
        <NumberField
          boxed
          :model-value="stated.tolerance"
          :min="0"
          :decimals="2"
          :disabled="stated.from === 'unknown'"
          label="Tolerance"
          @update:model-value="change({ tolerance: $event })"
      /></label>
      <label v-if="!figure.plain"
        >From
        <Select
          :model-value="stated.from"
          :options="sources"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Where it comes from"
          @update:model-value="change({ from: $event })"
      /></label>
    </div>
    <div v-if="units.length > 1" class="row sheet">
      <label
        >As a sheet prints it
        <NumberField
          boxed
          empty
          :model-value="printed"
          :decimals="4"
          placeholder="figure"
          label="As a sheet prints it"
          @update:model-value="printed = $event"
          @emptied="printed = null"
      /></label>
      <Select
        v-model="unit"
        :options="[...units]"
        option-label="name"
        option-value="name"
        size="small"
        aria-label="Unit of the sheet"
      />
      <span v-if="converted !== undefined"
        >is <span class="figure">{{ converted }} {{ figure.unit }}</span
        >{{ chosen?.rule ? ` (${chosen.rule})` : '' }}
        <Button label="Use it" size="small" severity="secondary" @click="take"
      /></span>
    </div>
    <p v-if="refused" class="refused" role="alert">{{ refused }}</p>
  </aside>
</template>

<style scoped>
.figure-panel {
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--sheet);
  padding: 8px 12px 10px;
  display: grid;
  gap: 8px;
  font-size: var(--small);
}
header {
  display: flex;
  justify-content: space-between;
}
header button {
  border: 0;
  background: none;
  text-decoration: underline;
  color: var(--quiet);
  cursor: pointer;
}
h3 {
  margin: 0;
  font-size: var(--body);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: center;
}
.row label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.row :deep(input) {
  width: 138px;
}
.sheet :deep(input) {
  width: 90px;
}
.refused {
  color: var(--iron);
}
</style>
