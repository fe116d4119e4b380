<script setup lang="ts">
import Button from 'primevue/button'
import { computed, shallowRef, watch } from 'vue'
import { outcomeBetween, standingOf } from '@iron-hush/core/advice'
import { checkGear, checkPatch, Gear, gearForm, partsOf, sentenceOf } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import OutcomeLine from '../../parts/OutcomeLine.vue'
import SchemaFields from './SchemaFields.vue'

/** Everything that the format can say of a thing, changed in a draft and stored as one change. */
const props = defineProps<{ thing: Gear }>()
const emit = defineEmits<{ close: [] }>()
const gear = useGear()
const scene = useScene()
const form = gearForm()
const draft = shallowRef<Record<string, unknown>>({})
/** What the draft was made from. */
const origin = shallowRef('')
const draw = () => {
  origin.value = JSON.stringify(props.thing)
  draft.value = JSON.parse(origin.value) as Record<string, unknown>
}
/** The thing was changed elsewhere while it was being changed here: what was typed stays. */
const changedElsewhere = computed(() => JSON.stringify(props.thing) !== origin.value)
watch(
  () => JSON.stringify(props.thing),
  () => {
    const began = JSON.parse(origin.value || '{}') as { id?: string }
    if (began.id !== props.thing.id || JSON.stringify(draft.value) === origin.value) draw()
  },
  { immediate: true },
)
/** The id is what scenes know it by. */
const shown = {
  ...form,
  properties: Object.fromEntries(Object.entries(form.properties ?? {}).filter(([key]) => key !== 'id')),
}

const read = computed(() => {
  const parsed = Gear.safeParse({ ...draft.value, id: props.thing.id })
  if (!parsed.success) return { problem: sentenceOf(parsed.error, props.thing.name) }
  const [problem] = checkGear(parsed.data)
  return problem === undefined ? { thing: parsed.data } : { problem }
})
const changed = computed(
  () => read.value.thing && JSON.stringify(read.value.thing) !== JSON.stringify(props.thing),
)
/** What it would do to the scene that was open last, where that uses it. */
const effect = computed(() => {
  const { patch } = scene
  const next = read.value.thing
  const parts = patch && partsOf(patch)
  if (!patch || !next || !changed.value || !parts?.some((each) => each.gear === next.id)) return undefined
  const shelf = new Map([...gear.shelf, [next.id, next]])
  const [problem] = checkPatch(patch, shelf)
  return {
    name: patch.name,
    outcome:
      problem === undefined
        ? outcomeBetween(standingOf(patch, gear.shelf), standingOf(patch, shelf))
        : { kind: 'refused' as const, sentence: problem },
  }
})
function store(): void {
  if (read.value.thing) gear.change(read.value.thing, `changing ${props.thing.name}`)
  emit('close')
}
</script>

<template>
  <section class="everything" aria-label="Everything it is made of">
    <header>
      <h3>Everything it is made of</h3>
      <span class="quiet"
        >stages, controls, sockets, patterns, power. Stored as one change; undo takes it back.</span
      >
      <Button label="Store" size="small" :disabled="!changed" @click="store()" />
      <Button label="Discard" severity="secondary" size="small" @click="emit('close')" />
    </header>
    <p v-if="read.problem" role="alert" class="iron">{{ read.problem }}</p>
    <p v-if="changedElsewhere" role="status">
      {{ thing.name }} was changed elsewhere meanwhile. <i>Store</i> replaces it with yours.
      <button type="button" class="quiet" @click="draw()">Show that one</button>
    </p>
    <p v-if="!read.problem && effect" role="status" class="effect">
      In {{ effect.name }}: <OutcomeLine :outcome="effect.outcome" />
    </p>
    <SchemaFields :schema="shown" :value="draft" :label="thing.name" @change="draft = $event" />
  </section>
</template>

<style scoped>
.everything {
  border: 1px solid var(--ink);
  background: var(--sheet);
  padding: 10px 14px 14px;
  display: grid;
  gap: 8px;
}
header {
  position: sticky;
  top: -14px;
  background: var(--sheet);
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: baseline;
  padding: 4px 0;
}
h3 {
  margin: 0;
  font-size: var(--body);
}
header .quiet {
  flex: 1;
}
.iron {
  color: var(--iron);
}
</style>
