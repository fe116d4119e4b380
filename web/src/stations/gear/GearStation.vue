<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { patternName } from '@iron-hush/core/acoustics'
import { type Gear, GearKind, positionName, positionsOf } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { figuresOf, portFigures } from './figures'

const gear = useGear()
const scene = useScene()
const route = useRoute()
const router = useRouter()
const wanted = ref('')

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
      things: gear.all.filter(
        (each) =>
          each.kind === kind &&
          `${each.name} ${each.maker}`.toLowerCase().includes(wanted.value.toLowerCase()),
      ),
    }))
    .filter(({ things }) => things.length),
)
const thing = computed<Gear | undefined>(
  () => gear.all.find(({ id }) => id === route.query.thing) ?? shelf.value[0]?.things[0],
)
const choose = (id: string) => void router.replace({ query: { thing: id } })
const own = (each: Gear, owned: number) => gear.change({ ...each, owned }, `how many ${each.name} you own`)
const usedBy = computed(() =>
  scene.patch
    ? [...scene.patch.boxes, ...scene.patch.links.flatMap(({ through }) => through)].filter(
        (part) => part.gear === thing.value?.id,
      )
    : [],
)
const rungName = (rung: { seriesOhm: number } | { shuntOhm: number }) =>
  'seriesOhm' in rung ? `${rung.seriesOhm} ohm in line` : `${rung.shuntOhm} ohm across`
const ladders = computed(() => {
  const ladder = thing.value?.passive?.ladder
  if (!ladder) return []
  return Array.isArray(ladder)
    ? [{ name: '', rungs: ladder }]
    : Object.entries(ladder.at).map(([name, rungs]) => ({ name, rungs }))
})
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Gear</h1>
      <span class="what">What each thing does in a chain, and where every figure comes from.</span>
      <InputText v-model="wanted" size="small" placeholder="on the shelf" aria-label="Search the shelf" />
    </div>
    <div class="body">
      <nav class="shelf" aria-label="The shelf">
        <template v-for="group in shelf" :key="group.kind">
          <h2>{{ plural[group.kind] }}</h2>
          <button
            v-for="each in group.things"
            :key="each.id"
            type="button"
            :aria-current="each.id === thing?.id"
            @click="choose(each.id)"
          >
            <span
              >{{ each.name }} <small>{{ each.maker }}</small></span
            >
            <span class="owned">{{ each.owned ? `\u2713 ${each.owned}` : '' }}</span>
          </button>
        </template>
        <p v-if="shelf.length === 0" class="quiet">Nothing of that name on the shelf.</p>
      </nav>
      <article v-if="thing">
        <header>
          <div>
            <h2 class="title">{{ thing.name }}</h2>
            <p class="quiet">
              {{ thing.maker }}, {{ thing.kind }}{{ thing.price ? `, about ${thing.price}` : '' }}
            </p>
          </div>
          <label class="own"
            >You own
            <InputNumber
              :model-value="thing.owned"
              :min="0"
              :max="99"
              show-buttons
              size="small"
              aria-label="How many you own"
              @update:model-value="own(thing, $event ?? 0)"
          /></label>
        </header>
        <p v-if="thing.note">{{ thing.note }}</p>
        <p
          v-if="thing.controls.some(({ kind }) => kind === 'knob') && thing.kind === 'headphones'"
          class="quiet"
        >
          Start low.
        </p>
        <p v-if="usedBy.length" class="quiet">
          In this scene as {{ usedBy.map((part) => ('name' in part && part.name) || part.id).join(', ') }}.
        </p>

        <template v-if="thing.strips.length">
          <h3>Stages</h3>
          <div v-for="strip in thing.strips" :key="strip.id" class="strip">
            <p class="strip-name">{{ strip.name ?? strip.id.replaceAll('-', ' ') }}</p>
            <ol>
              <li v-for="(stage, index) in strip.stages" :key="index">
                <b>{{ stage.name ?? stage.kind }}</b>
                <span class="kind">{{
                  stage.kind === 'transducer' ? `capsule, ${patternName(stage.pattern)}` : stage.kind
                }}</span>
                <span v-for="figure in figuresOf(stage)" :key="figure.name" class="fact">
                  {{ figure.name }} <span class="figure">{{ figure.value }}</span>
                  <i :class="figure.from">{{ figure.from }}</i>
                </span>
              </li>
            </ol>
          </div>
        </template>
        <template v-if="thing.passive">
          <h3>Inside</h3>
          <p>
            {{ thing.passive.from }} to {{ thing.passive.to
            }}{{ thing.passive.lengthM ? `, ${thing.passive.lengthM} m` : '' }}
          </p>
          <p v-for="ladder in ladders" :key="ladder.name" class="figure">
            {{ ladder.name ? `${ladder.name}: ` : ''
            }}{{ ladder.rungs.map(rungName).join(', ') || 'straight through' }}
          </p>
        </template>
        <div class="two">
          <div v-if="thing.ports.length">
            <h3>Sockets and plugs</h3>
            <table>
              <tbody>
                <tr v-for="{ port, figure } in portFigures(thing)" :key="port.id">
                  <th scope="row">{{ port.name }}</th>
                  <td>
                    {{ port.way }}, {{ port.connector }}{{ port.channels === 2 ? ', two channels' : ''
                    }}{{ port.balanced ? ', balanced' : '' }}
                  </td>
                  <td class="figure">{{ figure?.value }}</td>
                  <td>
                    <i v-if="figure" :class="figure.from">{{ figure.from }}</i>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <div v-if="thing.controls.length">
            <h3>Controls</h3>
            <table>
              <tbody>
                <tr v-for="control in thing.controls" :key="control.id">
                  <th scope="row">{{ control.name }}</th>
                  <td v-if="control.kind === 'switch'">
                    {{ control.positions.map(({ name }) => name).join(' / ') }}
                  </td>
                  <td v-else class="figure">
                    {{ positionName(control, positionsOf(control)[0]!) }} to
                    {{ positionName(control, positionsOf(control).at(-1)!) }}
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </div>
      </article>
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
  font-size: 12px;
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
  font-size: 12px;
  font-stretch: 85%;
}
.shelf [aria-current='true'] {
  background: var(--sheet);
  border-left-color: var(--ink);
  font-weight: 650;
}
.owned {
  color: var(--verdigris);
  font-size: 12px;
}
article {
  overflow: auto;
  padding: 14px 22px 24px;
  display: grid;
  gap: 10px;
  align-content: start;
}
header {
  display: flex;
  justify-content: space-between;
}
.title {
  font-size: 19px;
}
.own {
  display: flex;
  gap: 8px;
  align-items: center;
}
.own :deep(input) {
  width: 84px;
}
h3 {
  margin: 8px 0 0;
  font-size: 13px;
  font-stretch: 85%;
}
.strip-name {
  font-size: 12px;
  color: var(--quiet);
  font-stretch: 85%;
}
ol {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  margin: 2px 0 6px;
  padding: 0;
}
li .fact i {
  margin-left: 6px;
}
li {
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  padding: 6px 10px;
  display: grid;
  align-content: start;
  font-size: 12.5px;
  min-width: 110px;
}
li:not(:last-child)::after {
  content: '';
  position: absolute;
  left: 100%;
  top: 50%;
  width: 18px;
  border-top: 2px solid var(--brass);
}
.kind {
  color: var(--quiet);
  font-size: 11.5px;
}
i {
  font-style: normal;
  font-size: 11px;
  font-stretch: 85%;
  color: var(--quiet);
}
i.measured {
  color: var(--verdigris);
  font-weight: 650;
}
.two {
  display: grid;
  grid-template-columns: 1.3fr 1fr;
  gap: 28px;
}
table {
  border-collapse: collapse;
  width: 100%;
  font-size: 12.5px;
}
tr {
  border-top: 1px solid var(--rule);
}
th {
  text-align: left;
  font-weight: 600;
  font-stretch: 88%;
  padding: 3px 10px 3px 0;
}
</style>
