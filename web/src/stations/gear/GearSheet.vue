<script setup lang="ts">
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import { computed, ref, watch } from 'vue'
import { patternName } from '@iron-hush/core/acoustics'
import { pieceOfGear, pieceStrands } from '@iron-hush/core/circuit'
import type { GearUse } from '@iron-hush/core/contract'
import {
  connectorNames,
  figuresOfGear,
  type Gear,
  type GearFigure,
  positionName,
  positionsOf,
  stageNames,
  partId,
} from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import ContactsDrawing from '../patch/ContactsDrawing.vue'
import FigurePanel from './FigurePanel.vue'
import FigureButton from './FigureButton.vue'
import { isUnder } from './figures'
import PortContacts from './PortContacts.vue'

/** The sheet of a thing: its strip of stages, its contacts, and every figure to be changed where it stands. */
const props = defineProps<{ thing: Gear }>()
const emit = defineEmits<{ choose: [id: string] }>()
const gear = useGear()
const uses = ref<GearUse[]>([])
watch(
  () => props.thing.id,
  async (id) => (uses.value = await gear.usesOf(id).catch(() => [])),
  { immediate: true },
)
const figures = computed(() => figuresOfGear(props.thing))
const under = (...path: GearFigure['path']) => figures.value.filter((figure) => isUnder(figure, path))
const selected = ref<string>()
const key = ({ path }: GearFigure) => path.join('.')
const figureInHand = computed(() => figures.value.find((figure) => key(figure) === selected.value))

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
  const ids = gear.all.map(({ id }) => id)
  const names = new Set(gear.all.map(({ name }) => name))
  let name = `My ${props.thing.name.toLowerCase()}`
  for (let number = 2; names.has(name); number++) name = `My ${props.thing.name.toLowerCase()} ${number}`
  const id = partId(`my-${props.thing.id}`, ids)
  gear.add({ ...props.thing, id, name, owned: Math.max(1, props.thing.owned) }, `copying ${props.thing.name}`)
  emit('choose', id)
}
async function remove(): Promise<void> {
  uses.value = await gear.usesOf(props.thing.id).catch(() => uses.value)
  if (uses.value.length)
    useNotices().say(
      `${props.thing.name} was not deleted: it is used in ${uses.value.map(({ scene, as }) => `${scene} (as ${as.join(', ')})`).join('; ')}. Swap it there first.`,
    )
  else {
    gear.remove(props.thing)
    emit('choose', '')
  }
}

/** Where inside a figure stands, without saying "Inside" again. */
const insideName = (part: string) => part.replace(/^Inside(, )?/, '')
const drawings = computed(() => {
  const piece = pieceOfGear(props.thing.id, props.thing, {})
  return piece ? pieceStrands(piece) : []
})
const partWords = computed(() => (props.thing.passive?.parts ?? []).map(({ kind }) => kind))
const partCount = computed(() =>
  [...new Set(partWords.value)].map((kind) => {
    const count = partWords.value.filter((each) => each === kind).length
    const plural = kind === 'supply' ? 'supplies' : `${kind}s`
    return `${count} ${count > 1 ? plural : kind}`
  }),
)
</script>

<template>
  <article>
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
          <InputNumber
            :model-value="thing.owned"
            :min="0"
            :max="99"
            show-buttons
            size="small"
            aria-label="How many you own"
            @update:model-value="counted('owned', $event)"
        /></label>
        <label
          >Price
          <InputNumber
            :model-value="thing.price ?? null"
            :min="0"
            :max="1000000"
            size="small"
            aria-label="Price"
            @update:model-value="counted('price', $event)"
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
      {{
        uses.length
          ? `Used in ${uses.map(({ scene, as }) => `${scene} (as ${as.join(', ')})`).join('; ')}.`
          : 'Used in no scene.'
      }}
    </p>

    <FigurePanel
      v-if="figureInHand"
      class="hand"
      :thing="thing"
      :figure="figureInHand"
      @close="selected = undefined"
    />

    <template v-if="thing.strips.length">
      <h3>Stages <small class="quiet">touch a figure to change it</small></h3>
      <div v-for="(strip, at) in thing.strips" :key="strip.id" class="strip">
        <p class="strip-name">{{ strip.name ?? strip.id.replaceAll('-', ' ') }}</p>
        <ol>
          <li v-for="(stage, index) in strip.stages" :key="index">
            <b>{{ stage.name ?? stageNames[stage.kind] }}</b>
            <span class="kind">{{
              stage.kind === 'transducer'
                ? `capsule, ${patternName(stage.pattern)}`
                : stageNames[stage.kind].toLowerCase()
            }}</span>
            <FigureButton
              v-for="figure in under('strips', at, 'stages', index)"
              :key="key(figure)"
              :figure="figure"
              :selected="key(figure) === selected"
              @take="selected = key(figure)"
            />
          </li>
        </ol>
      </div>
    </template>
    <template v-if="thing.passive">
      <h3>Inside</h3>
      <p>
        {{ connectorNames[thing.passive.from] }} to {{ connectorNames[thing.passive.to]
        }}{{ partCount.length ? `; ${partCount.join(', ')}` : '' }}
      </p>
      <div class="drawings">
        <ContactsDrawing v-for="(each, index) in drawings" :key="index" :link="each" :width="380" alone />
      </div>
      <div class="inside">
        <FigureButton
          v-for="figure in under('passive')"
          :key="key(figure)"
          :figure="figure"
          :before="insideName(figure.part)"
          :selected="key(figure) === selected"
          @take="selected = key(figure)"
        />
      </div>
    </template>
    <template v-if="thing.ports.length">
      <h3>Sockets and plugs</h3>
      <table>
        <tbody>
          <tr v-for="(port, index) in thing.ports" :key="port.id">
            <th scope="row">{{ port.name }}</th>
            <td>
              {{ port.direction }}, {{ connectorNames[port.connector]
              }}{{ port.channels === 2 ? ', two channels' : '' }}{{ port.balanced ? ', balanced' : ''
              }}{{ port.digital ? ', digital' : '' }}
            </td>
            <td><PortContacts :port="port" :thing="thing" /></td>
            <td>
              <FigureButton
                v-for="figure in under('ports', index)"
                :key="key(figure)"
                :figure="figure"
                :before="figure.part.slice(port.name.length).replace(/^, /, '')"
                :selected="key(figure) === selected"
                @take="selected = key(figure)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="thing.radio">
      <h3>On the air</h3>
      <div class="inside">
        <FigureButton
          v-for="figure in under('radio')"
          :key="key(figure)"
          :figure="figure"
          :selected="key(figure) === selected"
          @take="selected = key(figure)"
        />
      </div>
    </template>
    <template v-if="thing.controls.length">
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
    </template>
  </article>
</template>

<style scoped>
.hand {
  position: sticky;
  top: -14px;
  z-index: 2;
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
  width: 150px;
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
  font-size: 19px;
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
  font-size: 12.5px;
}
.counts :deep(input) {
  width: 76px;
}
.inside {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
td .fact {
  margin-right: 10px;
}
.drawings {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
</style>
