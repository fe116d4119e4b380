<script setup lang="ts">
import Select from 'primevue/select'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { pairPatch, takeWay } from '@iron-hush/core/advice'
import { toBuyFor } from '@iron-hush/core/edits'
import { ranked, reportOf, pluggedLink, type Way, withoutDetours } from '@iron-hush/core/circuit'
import { isPluggable, type Link, type Patch } from '@iron-hush/core/model'
import { plainDecibels } from '@iron-hush/core/units'
import { circuitWords, toBuyPriced } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { type Job, startFindWays } from '../../workers/compute'

/** Two sockets of the shelf: whether they go together straight, and the lead that makes them. */
const gear = useGear()
const sockets = (direction: 'in' | 'out') =>
  gear.all.flatMap((thing) =>
    thing.ports
      .filter((port) => port.direction === direction && isPluggable(port.connector))
      .map((port) => ({ id: `${thing.id} ${port.id}`, name: `${thing.name}: ${port.name}` })),
  )
const outputs = computed(() => sockets('out'))
const inputs = computed(() => sockets('in'))
const from = ref<string>()
const to = ref<string>()

const asked = computed((): { patch: Patch; link: Link } | undefined => {
  const [one, other] = [from.value, to.value].map((each) => {
    const [thing, port] = each?.split(' ') ?? []
    return thing && port ? { gear: thing, port } : undefined
  })
  return one && other ? pairPatch(one, other, gear.shelf) : undefined
})
const straight = computed(() => {
  const { patch, link } = asked.value ?? {}
  const plugged = patch && link && pluggedLink(patch, link, gear.shelf)
  const worst = plugged && reportOf(plugged).findings[0]
  return plugged ? (worst ? circuitWords(worst).what : 'every contact does what it should') : ''
})
/** Supplies that the answer takes to be on. */
const switched = computed(() => {
  const box = asked.value?.patch.boxes[1]
  const thing = box && gear.of(box.gear)
  return (thing?.controls ?? [])
    .filter(({ id }) => box?.settings[id] !== undefined)
    .map(({ name }) => name.toLowerCase())
    .join(', ')
})
const ways = shallowRef<Way[]>()
let job: Job<Way[]> | undefined
watch(asked, async (now) => {
  job?.cancel()
  ways.value = undefined
  if (!now) return
  const mine = startFindWays(now.patch, now.link, gear.all, {}, (way) => {
    if (job === mine) ways.value = withoutDetours(ranked([...(ways.value ?? []), way]))
  })
  job = mine
  const all = await mine.result
  if (job === mine) ways.value = all
})
onUnmounted(() => job?.cancel())
const worstOf = ({ report }: Way) => report.findings.find(({ severity }) => severity !== 'note')
const shown = computed(() => (ways.value ?? []).filter(({ pieces }) => pieces.length).slice(0, 3))
function toBuy(way: Way): string {
  const { patch, link } = asked.value ?? {}
  return patch && link ? toBuyPriced(toBuyFor(patch, takeWay(patch, link, way), gear.shelf)) : ''
}
const nameOf = ({ pieces }: Way) => pieces.map(({ gear: piece }) => piece.name).join(' + ')
</script>

<template>
  <section aria-label="Which lead?">
    <h2>Which lead?</h2>
    <div class="pair">
      <Select
        v-model="from"
        :options="outputs"
        option-label="name"
        option-value="id"
        placeholder="from"
        filter
        size="small"
        aria-label="From which socket"
      />
      <Select
        v-model="to"
        :options="inputs"
        option-label="name"
        option-value="id"
        placeholder="into"
        filter
        size="small"
        aria-label="Into which socket"
      />
    </div>
    <template v-if="asked">
      <p>Straight in: {{ straight }}</p>
      <p v-if="switched" class="quiet">With {{ switched }} on.</p>
      <p v-for="way in shown" :key="nameOf(way)">
        <b>{{ nameOf(way) }}</b> loses {{ plainDecibels(Math.max(0, way.lossDb)) }},
        <span :class="toBuy(way) ? 'quiet' : 'tone-settled'">{{
          toBuy(way) ? `to buy: ${toBuy(way)}` : '\u2713 yours'
        }}</span>
        <template v-if="worstOf(way)"> &#9651; {{ circuitWords(worstOf(way)!).what }}</template>
      </p>
      <p v-if="ways?.length === 0" class="quiet">
        No chain of up to four cables and adapters from the shelf does it.
      </p>
    </template>
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--ink);
  padding-top: 12px;
  display: grid;
  gap: 7px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 8px;
}
</style>
