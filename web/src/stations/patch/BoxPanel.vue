<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed } from 'vue'
import { swapsFor, takeOutBox } from '@iron-hush/core/advice'
import {
  type Box,
  type Cover,
  controlKey,
  feedPort,
  lineSources,
  positionName,
  shelfFor,
  gearOf,
} from '@iron-hush/core/model'
import { ownedWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import InlineChoice from '../../parts/InlineChoice.vue'
import OutcomeLine from '../../parts/OutcomeLine.vue'
import { useReturnFocus } from '../../parts/return-focus'

/** A box: what it is, its place, and what could replace it. */
const props = defineProps<{ box: Box }>()
const emit = defineEmits<{ close: [] }>()
const scene = useScene()
const gear = useGear()
const patch = computed(() => scene.openPatch)
const all = computed(() => shelfFor(patch.value, gear.shelf))
const thing = computed(() => gearOf(all.value, props.box.gear))
const others = computed(() => swapsFor(patch.value, props.box, gear.shelf))
/** The power that a switch gives out, by the inputs that give it. */
const poweredBy = (control: string) =>
  thing.value.ports
    .filter(({ supplies }) => supplies?.some(({ when }) => when?.control === control))
    .map(({ name }) => `power on ${name}`)
/** What each control of the box affects: the recordings and ears behind it, and power. */
const reach = computed(() =>
  thing.value.controls.map((control) => {
    const runs = scene.levels?.reach[controlKey(props.box.id, control.id)] ?? []
    const runsOfAll = scene.levels?.runs ?? []
    const tracks = (boxName: string, only: (id: string) => boolean) =>
      new Set(
        runsOfAll.filter(({ id, end }) => end.boxName === boxName && only(id)).map(({ end }) => end.name),
      )
    const ends = [
      ...new Set(runsOfAll.filter(({ id }) => runs.includes(id)).map(({ end }) => end.boxName)),
    ].map((boxName) => {
      const reached = tracks(boxName, (id) => runs.includes(id))
      const whole = reached.size === tracks(boxName, () => true).size
      return whole ? boxName : `${boxName}, ${[...reached].join(', ')}`
    })
    return {
      id: control.id,
      name: control.name,
      control,
      position: String(props.box.settings[control.id] ?? control.initial),
      positionName: positionName(control, props.box.settings[control.id] ?? control.initial),
      changes: [...ends, ...poweredBy(control.id)],
    }
  }),
)
const covers: { id: Cover; name: string }[] = [
  { id: 'none', name: 'nothing' },
  { id: 'foam', name: 'foam' },
  { id: 'fur', name: 'fur over foam' },
  { id: 'basket', name: 'a basket with fur' },
]
const hears = computed(() => thing.value.ports.some(({ connector }) => connector === 'air'))

const set = (control: string, position: string) =>
  scene.change([{ kind: 'set control', part: props.box.id, control, position }], 'a switch')

function remove(): void {
  scene.change(takeOutBox(patch.value, props.box.id), `taking out ${props.box.name ?? thing.value.name}`)
  emit('close')
}
useReturnFocus()
</script>

<template>
  <aside class="panel" aria-label="Selected box">
    <header>
      <h2>{{ box.name ?? thing.name }}</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <p>{{ thing.name }}, {{ thing.maker }}. <span class="quiet">{{ thing.note }}</span></p>
    <label v-if="hears" class="field">
      <span>Stands</span>
      <Select
        :model-value="box.place ?? ''"
        :options="[...patch.brief.places, { id: '', name: 'nowhere' }]"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Place"
        @update:model-value="
          scene.change([{ kind: 'place box', box: box.id, place: $event || null }], 'the place')
        "
      />
    </label>
    <label v-if="hears" class="field">
      <span>Wears</span>
      <Select
        :model-value="box.cover ?? 'none'"
        :options="covers"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Cover against wind"
        @update:model-value="scene.change([{ kind: 'cover box', box: box.id, cover: $event }], 'the cover')"
      />
    </label>
    <label v-if="feedPort(thing)" class="field">
      <span>Carries</span>
      <Select
        :model-value="box.source ?? ''"
        :options="[...lineSources(patch), { id: '', name: 'nothing' }]"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Line feed it carries"
        @update:model-value="
          scene.change([{ kind: 'feed box', box: box.id, source: $event || null }], 'what it carries')
        "
      />
    </label>
    <template v-if="reach.length">
      <h3>What each control affects</h3>
      <ul class="reach" aria-label="What each control affects">
        <li v-for="each in reach" :key="each.id">
          <b>{{ each.name }}</b>
          <InlineChoice
            v-if="each.control.kind === 'switch'"
            :model-value="each.position"
            :options="each.control.positions.map(({ id, name }) => ({ value: id, name }))"
            :label="each.name"
            @update:model-value="set(each.id, $event)"
          />
          <span v-else class="figure">{{ each.positionName }}</span>
          <span class="quiet">{{
            each.changes.length ? each.changes.join('; ') : 'changes no level here'
          }}</span>
        </li>
      </ul>
    </template>
    <template v-if="others.length">
      <h3>Swap for</h3>
      <ul class="offers">
        <li v-for="offer in others" :key="offer.gear.id">
          <button
            type="button"
            @click="
              scene.change(
                [{ kind: 'swap', part: box.id, gear: offer.gear.id }],
                `swapping in ${offer.gear.name}`,
              )
            "
          >
            <b>{{ offer.gear.name }}</b>{{ ' '
            }}<span class="quiet">{{ ownedWords(offer.gear, patch) }}</span>
            <OutcomeLine :outcome="offer.outcome" />
          </button>
        </li>
      </ul>
    </template>
    <div class="buttons">
      <Button label="Remove from the chain" severity="secondary" size="small" @click="remove" />
    </div>
  </aside>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.reach {
  max-height: 150px;
  overflow: auto;
  font-size: var(--small);
}
.reach li {
  display: grid;
  grid-template-columns: 84px 74px 1fr;
  gap: 8px;
  border-top: 1px solid var(--rule);
  padding: 2px 0;
}
</style>
