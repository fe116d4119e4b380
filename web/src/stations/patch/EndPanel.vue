<script setup lang="ts">
import Select from 'primevue/select'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { joinAt } from '@iron-hush/core/circuit'
import { shelfFor, partNameOf, boxOf, gearOf } from '@iron-hush/core/model'
import { ownedWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { type Job, startOffersAtEnd } from '../../workers/compute'
import { byTrouble, type EndOffer, plugIn } from '@iron-hush/core/advice'
import OutcomeLine from '../../parts/OutcomeLine.vue'
import { useReturnFocus } from '../../parts/return-focus'

/** An end of the chain: what could be joined on there, what is owned first, with the finding each would bring. */
const props = defineProps<{ box: string; direction: 'in' | 'out' }>()
const emit = defineEmits<{ close: []; added: [box: string] }>()
const scene = useScene()
const gear = useGear()
const patch = computed(() => scene.openPatch)
const shelf = computed(() => shelfFor(patch.value, gear.shelf))
const thing = computed(() => gearOf(shelf.value, boxOf(patch.value, props.box).gear))
const boxName = computed(() => patch.value.boxes.find(({ id }) => id === props.box)?.name ?? thing.value.name)
const taken = (port: string) =>
  patch.value.links.some(({ from, to }) =>
    [from, to].some((end) => end.box === props.box && end.port === port),
  )
const joinable = (port: string) => joinAt(patch.value, { box: props.box, port }, gear.shelf) !== undefined
/** Free ends first; an output that is taken can still be split, an input only where its lead has a free end. */
const ports = computed(() =>
  thing.value.ports
    .filter(
      ({ id, direction, connector }) =>
        direction === props.direction &&
        connector !== 'air' &&
        (props.direction === 'out' || !taken(id) || joinable(id)),
    )
    .sort((one, other) => Number(taken(one.id)) - Number(taken(other.id)))
    .map(({ id, name }) => ({
      id,
      name: taken(id)
        ? `${name} (${props.direction === 'out' ? 'taken: by a splitter' : 'through the free end of its lead'})`
        : name,
    })),
)
const port = ref(ports.value[0]?.id)
const wanted = ref('')
const offers = shallowRef<EndOffer[]>([])
const looking = ref(false)
let job: Job<void> | undefined
function stop(): void {
  job?.cancel()
  job = undefined
  looking.value = false
}
watch(
  [port, () => props.box, () => props.direction, () => gear.isWhole],
  async () => {
    stop()
    offers.value = []
    if (!ports.value.some(({ id }) => id === port.value)) port.value = ports.value[0]?.id
    if (!port.value) return
    looking.value = true
    if (!gear.isWhole) return
    const place = { place: { box: props.box, port: port.value }, direction: props.direction }
    const mine = startOffersAtEnd(patch.value, place, gear.all, (offer) => {
      if (job === mine) offers.value = [...offers.value, offer]
    })
    job = mine
    await mine.result
    if (job === mine) looking.value = false
  },
  { immediate: true },
)
onUnmounted(stop)
void gear.whenWhole()

function take(offer: EndOffer): void {
  if (scene.change(offer.edits, `adding ${offer.gear.name}`)) emit('added', offer.box)
}

/** Free sockets of boxes that are there already. */
const there = computed(() =>
  patch.value.boxes.flatMap((box) =>
    box.id === props.box
      ? []
      : gearOf(shelf.value, box.gear)
          .ports.filter(
            ({ id, direction, connector }) =>
              direction !== props.direction &&
              connector !== 'air' &&
              (direction === 'out' ||
                !patch.value.links.some(({ to }) => to.box === box.id && to.port === id)),
          )
          .map(({ id, name }) => ({
            id: `${box.id}.${id}`,
            name: `${partNameOf(box, shelf.value)}: ${name}`,
            end: { box: box.id, port: id },
          })),
  ),
)
function join(id: string): void {
  const found = there.value.find((each) => each.id === id)
  if (!found || !port.value) return
  const mine = { box: props.box, port: port.value }
  const [from, to] = props.direction === 'out' ? [mine, found.end] : [found.end, mine]
  if (scene.change(plugIn(patch.value, gear.shelf, from, to), 'plugging in')) emit('close')
}
/** Owned gear first; within that, gear without problems. */
const shown = computed(() =>
  offers.value
    .filter(({ gear: each }) =>
      `${each.name} ${each.kind} ${each.maker}`.toLowerCase().includes(wanted.value.toLowerCase()),
    )
    .sort(
      (one, other) =>
        Number(one.gear.standIn ?? false) - Number(other.gear.standIn ?? false) ||
        Number(other.gear.owned > 0) - Number(one.gear.owned > 0) ||
        byTrouble(one.outcome, other.outcome),
    ),
)
useReturnFocus()
</script>

<template>
  <aside class="panel" aria-label="Selected end">
    <header>
      <h2>{{ direction === 'out' ? `After ${boxName}` : `Before ${boxName}` }}</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <p v-if="ports.length === 0" class="quiet">Every socket on this side is taken.</p>
    <template v-else>
      <label class="field"
        ><span>{{ direction === 'out' ? 'From' : 'Into' }}</span
        ><Select
          v-model="port"
          :options="ports"
          option-label="name"
          option-value="id"
          size="small"
          :aria-label="direction === 'out' ? 'From socket' : 'Into socket'"
      /></label>
      <label v-if="there.length" class="field"
        ><span>What is there</span
        ><Select
          :model-value="null"
          :options="there"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="connect to a box in the scene"
          aria-label="Connect to a box in the scene"
          @update:model-value="join"
      /></label>
      <label class="field"
        ><span>Or new</span
        ><input v-model="wanted" class="search" placeholder="any kind" aria-label="Search things"
      /></label>
      <ul class="offers tall" aria-label="Things that could go there">
        <li v-for="offer in shown" :key="offer.gear.id">
          <button type="button" @click="take(offer)">
            <b>{{ offer.gear.name }}</b>{{ ' '
            }}<span class="quiet"
              >{{ offer.gear.kind }}, {{ ownedWords(offer.gear, patch)
              }}{{ offer.through.length ? `; by ${offer.through.join(' + ')}` : '' }}</span
            >
            <OutcomeLine :outcome="offer.outcome" />
          </button>
        </li>
        <li v-if="looking" class="quiet">Trying what is on the shelf&hellip;</li>
        <li v-else-if="shown.length === 0" class="quiet">Nothing on the shelf fits there.</li>
      </ul>
    </template>
  </aside>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
/* its whole height from the start, so that the panel is brought into sight once */
.tall {
  height: 300px;
  max-height: none;
}
.search {
  border: 1px solid var(--rule);
  border-radius: 2px;
  padding: 5px 8px;
  background: var(--paper);
}
</style>
