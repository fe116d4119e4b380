<script setup lang="ts">
import Button from 'primevue/button'
import { ref, watch } from 'vue'
import { type GearUse, usesWords } from '@iron-hush/core/contract'
import { myCopyOf } from '@iron-hush/core/advice'
import type { Gear } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { newId } from '../../sync/new-id'
import { useNotices } from '../../state/notices'
import NumberField from '../../parts/NumberField.vue'

/** What a thing is called, how many are owned, what it costs, where it is used; copying and deleting it. */
const props = defineProps<{ thing: Gear }>()
const emit = defineEmits<{ choose: [id: string] }>()
const gear = useGear()
const uses = ref<GearUse[]>([])
watch(
  () => props.thing.id,
  async (id) => (uses.value = await gear.usesOf(id).catch(() => [])),
  { immediate: true },
)

const said = (field: 'name' | 'maker' | 'note', event: Event) => {
  const text = (event.target as HTMLInputElement).value.trim()
  if (text === '' && field !== 'note') (event.target as HTMLInputElement).value = props.thing[field]
  else gear.change({ ...props.thing, [field]: text }, `${field} of ${props.thing.name}`)
}
const counted = (field: 'owned' | 'price', value: number | null) => {
  if (value === null && field === 'price') {
    const { price: _, ...rest } = props.thing
    gear.change(rest, `price of ${props.thing.name}`)
  } else
    gear.change(
      { ...props.thing, [field]: value ?? 0 },
      field === 'owned' ? `how many ${props.thing.name} you own` : `price of ${props.thing.name}`,
    )
}

function copy(): void {
  const mine = myCopyOf(props.thing, gear.all, newId())
  gear.add(mine, `copying ${props.thing.name}`)
  emit('choose', mine.id)
}
async function remove(): Promise<void> {
  uses.value = await gear.usesOf(props.thing.id).catch(() => uses.value)
  if (uses.value.length)
    useNotices().say(
      `${props.thing.name} was not deleted: it is used in ${usesWords(uses.value)}. Swap it there first.`,
    )
  else {
    gear.remove(props.thing)
    emit('choose', '')
  }
}
</script>

<template>
  <div class="head">
    <header>
      <div class="named">
        <input
          class="title"
          :value="thing.name"
          maxlength="120"
          aria-label="Name"
          @change="said('name', $event)"
        />
        <p class="quiet">
          <input :value="thing.maker" maxlength="120" aria-label="Maker" @change="said('maker', $event)" />
          {{ thing.kind }}
        </p>
      </div>
      <div class="counts">
        <label
          >You own
          <NumberField
            boxed
            :model-value="thing.owned"
            :min="0"
            :max="99"
            :decimals="0"
            label="How many you own"
            @update:model-value="counted('owned', $event)"
        /></label>
        <label
          >Price
          <NumberField
            boxed
            empty
            :model-value="thing.price ?? null"
            :min="0"
            :max="1000000"
            :decimals="2"
            label="Price"
            @update:model-value="counted('price', $event)"
            @emptied="counted('price', null)"
        /></label>
        <Button label="Copy as mine" severity="secondary" size="small" @click="copy" />
        <Button label="Delete" severity="secondary" size="small" @click="remove" />
      </div>
    </header>
    <textarea
      :value="thing.note ?? ''"
      rows="1"
      maxlength="4000"
      placeholder="A note"
      aria-label="Note"
      @change="said('note', $event)"
    ></textarea>
    <p class="quiet">
      {{ uses.length ? `Used in ${usesWords(uses)}.` : 'Not used in any scene.' }}
    </p>
  </div>
</template>

<style scoped>
.head {
  display: grid;
  gap: 10px;
}
header {
  display: flex;
  justify-content: space-between;
}
.named input,
textarea {
  border: 1px solid transparent;
  background: none;
  border-radius: 2px;
  padding: 1px 4px;
  margin-left: -5px;
  font: inherit;
  color: inherit;
  width: 100%;
}
.named p input {
  width: auto;
  min-width: 60px;
  field-sizing: content;
}
.named input:hover,
textarea:hover,
.named input:focus,
textarea:focus {
  border-color: var(--rule);
  background: var(--sheet);
}
textarea {
  resize: vertical;
  line-height: 1.35;
  field-sizing: content;
  min-height: 25px;
}
.named .title {
  font-size: var(--title);
  font-weight: 650;
}
.named {
  flex: 1;
}
.counts {
  display: flex;
  gap: 12px;
  align-items: center;
}
.counts label {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: var(--small);
}
.counts :deep(input) {
  width: 76px;
}
@media (max-width: 1000px) {
  header,
  .counts {
    flex-wrap: wrap;
  }
}
@media (max-width: 700px) {
  textarea {
    min-height: 44px;
  }
}
</style>
