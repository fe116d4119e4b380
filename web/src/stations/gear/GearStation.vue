<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { type Gear, GearKind } from '@iron-hush/core/model'
import { gearCsv, gearJson } from '@iron-hush/core/report'
import { useGear } from '../../state/gear'
import { download } from '../../state/download'
import GearFile from './GearFile.vue'
import GearSheet from './GearSheet.vue'
import NewThing from './NewThing.vue'

const gear = useGear()
const route = useRoute()
const router = useRouter()
const wanted = ref('')
const reading = ref<File>()
const making = ref(false)
function made(id: string): void {
  making.value = false
  choose(id)
}

const plural: Record<GearKind, string> = {
  microphone: 'Microphones',
  radio: 'Radio sets',
  preamplifier: 'Preamplifiers',
  mixer: 'Mixers',
  recorder: 'Recorders',
  camera: 'Cameras',
  pad: 'Pads',
  cable: 'Cables',
  adapter: 'Adapters',
  headphones: 'Headphones',
  player: 'Players',
  desk: 'Other people\u2019s desks',
}
const shelf = computed(() =>
  GearKind.options
    .map((kind) => ({
      kind,
      things: gear.all
        .filter(
          (each) =>
            each.kind === kind &&
            `${each.name} ${each.maker}`.toLowerCase().includes(wanted.value.toLowerCase()),
        )
        .sort((first, other) => first.name.localeCompare(other.name)),
    }))
    .filter(({ things }) => things.length),
)
const thing = computed<Gear | undefined>(
  () => gear.of(String(route.query.thing)) ?? shelf.value[0]?.things[0],
)
/** On a small screen either the shelf is shown or what was chosen of it. */
const one = computed(() => making.value || reading.value !== undefined || route.query.thing !== undefined)
function back(): void {
  making.value = false
  reading.value = undefined
  void router.replace({ query: {} })
}
const choose = (id: string) => void router.replace({ query: { thing: id } })

function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  reading.value = input.files?.[0]
  input.value = ''
}
const writeJson = () => download(gearJson(gear.all), 'shelf.json', 'application/json')
const writeTable = () => download(gearCsv(gear.all), 'shelf.csv', 'text/csv')
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Gear</h1>
      <span class="what" title="What each does in a chain, and where every figure comes from"
        >{{ gear.all.length }} things: what each does in a chain, and where every figure comes from.</span
      >
      <Button
        label="New"
        size="small"
        title="A thing of your own, from a few answers"
        @click="making = true"
      />
      <label class="pick"
        >Import<input
          type="file"
          accept=".json,.csv,application/json,text/csv"
          aria-label="Import a gear file"
          @change="pick"
      /></label>
      <Button label="Export JSON" severity="secondary" size="small" @click="writeJson" />
      <Button label="Export table" severity="secondary" size="small" @click="writeTable" />
      <InputText
        v-model="wanted"
        size="small"
        placeholder="find on the shelf"
        aria-label="Search the shelf"
      />
    </div>
    <button v-if="one" type="button" class="back" @click="back">&larr; All things</button>
    <div class="body" :class="{ one }">
      <nav class="shelf" aria-label="The shelf">
        <template v-for="group in shelf" :key="group.kind">
          <h2>{{ plural[group.kind] }}</h2>
          <button
            v-for="each in group.things"
            :key="each.id"
            type="button"
            :aria-current="!making && each.id === thing?.id"
            @click="made(each.id)"
          >
            <span>{{ each.name }} <small>{{ each.maker }}</small></span>
            <span class="owned">{{ each.owned ? `\u2713 ${each.owned}` : '' }}</span>
          </button>
        </template>
        <p v-if="shelf.length === 0" class="quiet">Nothing by that name on the shelf.</p>
      </nav>
      <NewThing v-if="making" @close="making = false" @made="made($event)" />
      <GearFile v-else-if="reading" :key="reading.name" :file="reading" @close="reading = undefined" />
      <GearSheet v-else-if="thing" :key="thing.id" :thing="thing" @choose="choose" />
    </div>
  </section>
</template>

<style scoped>
.body {
  display: grid;
  grid-template-columns: 290px minmax(0, 1fr);
  min-height: 0;
  border-top: 1px solid var(--rule);
}
.shelf {
  overflow: auto;
  border-right: 1px solid var(--rule);
  padding: 6px 0 20px 18px;
}
.shelf h2 {
  color: var(--quiet);
  font-size: var(--small);
  margin: 10px 0 2px;
}
.shelf button {
  display: flex;
  justify-content: space-between;
  width: 100%;
  border: 0;
  background: none;
  text-align: left;
  padding: 4px 10px 4px 8px;
  cursor: pointer;
  border-left: 2px solid transparent;
}
.shelf small {
  color: var(--quiet);
  font-size: var(--small);
  font-stretch: 85%;
}
.shelf [aria-current='true'] {
  background: var(--sheet);
  border-left-color: var(--ink);
  font-weight: 650;
}
.owned {
  white-space: nowrap;
  flex-shrink: 0;
  color: var(--verdigris);
  font-size: var(--small);
}
.pick {
  position: relative;
  border: 1px solid var(--ink);
  border-radius: 2px;
  padding: 5px 10px;
  font-size: var(--body);
  font-stretch: 85%;
  font-weight: 600;
  cursor: pointer;
}
.pick:focus-within {
  outline: 2px solid var(--brass);
}
.pick input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.back {
  display: none;
}
@media (max-width: 700px) {
  .station {
    display: block;
    overflow: auto;
  }
  .station-head .what {
    display: none;
  }
  .pick {
    min-height: 44px;
    display: flex;
    align-items: center;
  }
  .shelf button {
    align-items: center;
  }
  .back {
    display: block;
    border: 0;
    background: none;
    padding: 0 16px;
    text-align: left;
  }
  .body {
    display: block;
  }
  .shelf {
    border-right: 0;
    padding: 6px 16px 20px;
  }
  .body.one .shelf,
  .body:not(.one) > :not(.shelf) {
    display: none;
  }
}
</style>
