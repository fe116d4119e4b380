<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import type { Edit } from '@iron-hush/core/edits'
import { isPiece, type Link, type Patch, shelfFor, idsOf, partId } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { byOwned } from './layout'
import { outcomeOf } from './outcome'
import { plugIn } from './plugging'

/** Adds a box and plugs it in; or plugs together what is there. */
const emit = defineEmits<{ close: []; added: [box: string] }>()
const scene = useScene()
const gear = useGear()
const patch = computed(() => scene.patch!)
const all = computed(() => shelfFor(patch.value, gear.shelf))
const things = computed(() =>
  [...all.value.values()]
    .filter((each) => !isPiece(each))
    .sort((one, other) => one.kind.localeCompare(other.kind) || byOwned(one, other))
    .map((each) => ({ id: each.id, name: `${each.name} (${each.kind}${each.owned ? '' : ', not owned'})` })),
)
const chosen = ref<string>()
const thing = computed(() => (chosen.value ? all.value.get(chosen.value) : undefined))
const place = ref<string | null>(null)
const fedBy = ref<string | null>(null)
const feeds = ref<string | null>(null)

interface Socket {
  id: string
  name: string
  end: Link['from']
  connector: string
}
function sockets(way: 'in' | 'out', free: boolean): Socket[] {
  return patch.value.boxes.flatMap((box) => {
    const each = all.value.get(box.gear)!
    return each.ports
      .filter(
        (port) =>
          port.way === way &&
          port.connector !== 'air' &&
          !(free && patch.value.links.some(({ to }) => to.box === box.id && to.port === port.id)),
      )
      .map((port) => ({
        id: `${box.id}.${port.id}`,
        name: `${box.name ?? each.name}: ${port.name}`,
        end: { box: box.id, port: port.id },
        connector: port.connector,
      }))
  })
}
const outputs = computed(() => sockets('out', false))
const inputs = computed(() => sockets('in', true))
const none = { id: null, name: 'nothing yet' }
const needsPlace = computed(() => thing.value?.ports.some(({ connector }) => connector === 'air'))

/** A port of the new thing for a socket: one of the same shape, else the first of its direction. */
function portFor(way: 'in' | 'out', socket: Socket, taken: Patch['links']): string | undefined {
  const ports = thing.value!.ports.filter(
    (port) => port.way === way && port.connector !== 'air' && !taken.some(({ to }) => to.port === port.id),
  )
  return (ports.find(({ connector }) => connector === socket.connector) ?? ports[0])?.id
}

const edits = computed<Edit[]>(() => {
  const each = thing.value
  if (!each) return []
  const used = idsOf(patch.value)
  const id = partId(each.kind, used)
  const list: Edit[] = [
    {
      kind: 'add box',
      box: { id, gear: each.id, place: place.value ?? undefined, settings: {}, locked: [] },
    },
  ]
  const ids = [...used, id]
  const plug = (from: Link['from'], to: Link['from']) =>
    list.push(...plugIn(patch.value, gear.shelf, from, to, [], ids))
  const source = outputs.value.find((socket) => socket.id === fedBy.value)
  const target = inputs.value.find((socket) => socket.id === feeds.value)
  const input = source && portFor('in', source, [])
  const output = target && portFor('out', target, [])
  if (source && input) plug(source.end, { box: id, port: input })
  if (target && output) plug({ box: id, port: output }, target.end)
  return list
})
const outcome = computed(() =>
  edits.value.length ? outcomeOf(patch.value, edits.value, gear.shelf) : undefined,
)

function add(): void {
  const [first] = edits.value
  if (first?.kind === 'add box' && scene.change(edits.value, `adding ${thing.value!.name}`))
    emit('added', first.box.id)
}

const from = ref<string>()
const to = ref<string>()
function connect(): void {
  const source = outputs.value.find(({ id }) => id === from.value)
  const target = inputs.value.find(({ id }) => id === to.value)
  if (!source || !target) return
  if (scene.change(plugIn(patch.value, gear.shelf, source.end, target.end), 'plugging in')) emit('close')
}
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
          v-model="place"
          :options="[...patch.brief.places, { id: null, name: 'nowhere yet' }]"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Stands"
      /></label>
      <label
        v-if="thing.ports.some(({ way, connector }) => way === 'in' && connector !== 'air')"
        class="field"
        ><span>Fed by</span
        ><Select
          v-model="fedBy"
          :options="[none, ...outputs]"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Fed by"
      /></label>
      <label v-if="thing.ports.some(({ way }) => way === 'out')" class="field"
        ><span>Feeds</span
        ><Select
          v-model="feeds"
          :options="[none, ...inputs]"
          option-label="name"
          option-value="id"
          size="small"
          aria-label="Feeds"
      /></label>
      <p v-if="outcome" class="brings" :class="outcome.severity">
        {{ outcome.severity === 'none' ? '\u2713 ' : '\u25B2 ' }}{{ outcome.brings }}
      </p>
    </template>
    <div class="buttons"><Button label="Add" size="small" :disabled="!thing" @click="add" /></div>
    <h3>Or plug together what is there</h3>
    <label class="field"
      ><span>From</span
      ><Select
        v-model="from"
        :options="outputs"
        option-label="name"
        option-value="id"
        size="small"
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
        aria-label="To input"
    /></label>
    <div class="buttons">
      <Button label="Plug in" severity="secondary" size="small" :disabled="!from || !to" @click="connect" />
    </div>
  </aside>
</template>

<style scoped src="./panel.css"></style>
