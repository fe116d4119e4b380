<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import {
  addingEdits,
  byOwned,
  joined,
  leadsIn,
  outcomeOf,
  socketsOf,
  usualPlaceFor,
} from '@iron-hush/core/advice'
import { type Edit, toBuyFor } from '@iron-hush/core/edits'
import { feedPort, isPiece, shelfFor } from '@iron-hush/core/model'
import { ownedWords, toBuyWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import OutcomeLine from '../../parts/OutcomeLine.vue'
import { useReturnFocus } from '../../parts/return-focus'

/** Adds a box and plugs it in; or plugs together what is there. */
const emit = defineEmits<{ close: []; added: [box: string] }>()
const scene = useScene()
const gear = useGear()
const patch = computed(() => scene.openPatch)
const all = computed(() => shelfFor(patch.value, gear.shelf))
const things = computed(() =>
  [...all.value.values()]
    .filter((each) => !isPiece(each))
    .sort((one, other) => one.kind.localeCompare(other.kind) || byOwned(one, other))
    .map((each) => {
      const owned = ownedWords(each, patch.value)
      const more = each.standIn || owned === 'yours' ? '' : `, ${owned}`
      return { id: each.id, name: `${each.name} (${each.kind}${more})` }
    }),
)
const chosen = ref<string>()
watch(chosen, () => (place.value = undefined))
const thing = computed(() => (chosen.value ? all.value.get(chosen.value) : undefined))
/** Left alone (undefined) it is placed where a thing of its kind usually is; null is nowhere. */
const place = ref<string | null>()
const fedBy = ref<string | null>(null)
const feeds = ref<string | null>(null)

const outputs = computed(() => socketsOf(patch.value, gear.shelf, 'out', false))
const inputs = computed(() => socketsOf(patch.value, gear.shelf, 'in', true))
const none = { id: null, name: 'nothing yet' }
/** By another box; what a desk carries comes by no plug. */
const canBeFed = computed(() => {
  const own = thing.value && feedPort(thing.value)
  return thing.value?.ports.some(
    (port) => port.direction === 'in' && port.connector !== 'air' && port !== own,
  )
})
/** The places it may stand at, with the one that is made for it where none of the brief suits. */
const usual = computed(() => thing.value && usualPlaceFor(patch.value, thing.value))
const places = computed(() => {
  const made = usual.value?.edits.flatMap((edit) =>
    edit.kind === 'change brief' ? (edit.to.places ?? []) : [],
  )
  return [...(made?.length ? made : patch.value.brief.places), { id: null, name: 'nowhere yet' }]
})
const needsPlace = computed(() => thing.value?.ports.some(({ connector }) => connector === 'air'))

const edits = computed<Edit[]>(() =>
  thing.value
    ? addingEdits(patch.value, thing.value, gear.shelf, {
        // the place that is made for it comes with it
        place: place.value === usual.value?.place ? undefined : place.value,
        source: outputs.value.find(({ id }) => id === fedBy.value),
        target: inputs.value.find(({ id }) => id === feeds.value),
      })
    : [],
)
const outcome = computed(() =>
  edits.value.length ? outcomeOf(patch.value, edits.value, gear.shelf) : undefined,
)

function add(): void {
  const [first] = edits.value
  if (first?.kind === 'add box' && scene.change(edits.value, `adding ${thing.value?.name}`))
    emit('added', first.box.id)
}

const from = ref<string>()
const to = ref<string>()
const joining = computed<Edit[]>(() => {
  const source = outputs.value.find(({ id }) => id === from.value)
  const target = inputs.value.find(({ id }) => id === to.value)
  return source && target ? joined(patch.value, gear.shelf, source.end, target.end) : []
})
/** The pieces between, and what must be bought, shown before they are inserted. */
function leads(of: Edit[]): string {
  const names = leadsIn(of, patch.value, gear.shelf).map(({ name }) => name)
  if (names.length === 0) return ''
  return `With ${names.join(', ')}. ${toBuyWords(toBuyFor(patch.value, of, gear.shelf))}`
}
function connect(): void {
  if (joining.value.length === 0) return
  if (scene.change(joining.value, 'plugging in')) emit('close')
}
useReturnFocus()
</script>

<template>
  <aside class="panel" aria-label="Add to the chain">
    <header>
      <h2>Add a box</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <label class="field"
      ><span>What</span
      ><Select
        v-model="chosen"
        :options="things"
        option-label="name"
        option-value="id"
        filter
        size="small"
        placeholder="from the shelf"
        aria-label="What"
    /></label>
    <template v-if="thing">
      <label v-if="needsPlace" class="field"
        ><span>Stands</span
        ><Select
          :model-value="place === undefined ? (usual?.place ?? null) : place"
          :options="places"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="nowhere yet"
          aria-label="Stands"
          @update:model-value="place = $event"
      /></label>
      <label v-if="canBeFed" class="field"
        ><span>Fed by</span
        ><Select
          v-model="fedBy"
          :options="[none, ...outputs]"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="nothing yet"
          aria-label="Fed by"
      /></label>
      <label v-if="thing.ports.some(({ direction }) => direction === 'out')" class="field"
        ><span>Feeds</span
        ><Select
          v-model="feeds"
          :options="[none, ...inputs]"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="nothing yet"
          aria-label="Feeds"
      /></label>
      <p v-if="leads(edits)" class="quiet">{{ leads(edits) }}</p>
      <p v-if="thing && !edits.some(({ kind }) => kind === 'connect')" class="quiet">
        Connected to nothing yet: choose what feeds it, or what it feeds.
      </p>
      <OutcomeLine v-else-if="outcome" :outcome />
    </template>
    <div class="buttons"><Button label="Add" size="small" :disabled="!thing" @click="add" /></div>
    <h3>Or connect two boxes that are already here</h3>
    <label class="field"
      ><span>From</span
      ><Select
        v-model="from"
        :options="outputs"
        option-label="name"
        option-value="id"
        size="small"
        placeholder="choose a socket"
        aria-label="From output"
    /></label>
    <label class="field"
      ><span>To</span
      ><Select
        v-model="to"
        :options="inputs"
        option-label="name"
        option-value="id"
        size="small"
        placeholder="choose a socket"
        aria-label="To input"
    /></label>
    <p v-if="leads(joining)" class="quiet">{{ leads(joining) }}</p>
    <div class="buttons">
      <Button label="Plug in" severity="secondary" size="small" :disabled="!from || !to" @click="connect" />
    </div>
  </aside>
</template>

<style scoped src="./panel.css"></style>
