<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onScopeDispose, shallowRef, watch } from 'vue'
import type { Balance } from '@iron-hush/core/balance'
import { applyEdits } from '@iron-hush/core/edits'
import { type Bench, type Learnt, learntOf } from '@iron-hush/core/lineup'
import { partNameOf, positionName, shelfFor, shelfOf } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { learntWords, worstRatioName } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { type Job, startBalance } from '../../workers/compute'
import { useLearnt } from './accept-learnt'

/** What the readings show about the boxes, and how the plan would change. */
const { bench } = defineProps<{ bench: Bench }>()
const gear = useGear()
const { ownOf, accept } = useLearnt()
const found = computed(() => learntOf(bench))

const outcome = shallowRef<Balance>()
let job: Job<Balance> | undefined
/** Balance with everything that was learnt, on things that are not on the shelf yet. */
async function ask(all: readonly Learnt[]): Promise<void> {
  job?.cancel()
  outcome.value = undefined
  if (all.length === 0) return
  const own = all.map(({ thing, changes }) => ownOf(thing, changes))
  const things = [...gear.all.filter(({ id }) => own.every((each) => each.id !== id)), ...own]
  const edits = all.map(({ box }, index) => ({ kind: 'swap' as const, part: box, gear: own[index]!.id }))
  const mine = startBalance(applyEdits(bench.patch, edits, shelfOf(things)), things)
  job = mine
  const balanced = await mine.result.catch(() => undefined)
  if (job === mine) outcome.value = balanced
}
watch(found, (all) => void ask(all), { immediate: true })
onScopeDispose(() => job?.cancel())

const asks = computed(() => {
  const shelf = shelfFor(bench.patch, gear.shelf)
  return (outcome.value?.changes ?? []).flatMap(({ part, control, from, to }) => {
    const box = bench.patch.boxes.find(({ id }) => id === part)
    const known = box && shelf.get(box.gear)?.controls.find(({ id }) => id === control)
    if (!box || !known) return []
    return [
      `${partNameOf(box, shelf)}: ${known.name.toLowerCase()} at ${positionName(known, to)} instead of ${positionName(known, from)}`,
    ]
  })
})
const ratio = computed(() => {
  const [before, after] = [outcome.value?.before, outcome.value?.after].map(
    (score) => score?.speechToNoiseDb[0],
  )
  return before === undefined || after === undefined ? '' : `${signed(before)} to ${signed(after)} dB`
})
/** The plan overloads now, and no longer does with what Balance asks for. */
const takesOverload = computed(() => {
  const [before, after] = [outcome.value?.before, outcome.value?.after].map((score) => score?.overDb[0] ?? 0)
  return before! > 0 && after === 0
})
/** Something was read that could have said otherwise. */
const readings = computed(() =>
  bench.patch.lineUp.some(({ step }) => /^(tone|overload|floor|bursts|mark) /.test(step)),
)
</script>

<template>
  <section class="changes">
    <h2>What it changes</h2>
    <template v-if="found.length">
      <article v-for="{ box, boxName, thing, changes } in found" :key="box">
        <p>
          <b>{{ boxName }}</b> <span class="quiet">{{
            thing.copyOf ? thing.name : `becomes “My ${thing.name.toLowerCase()}”`
          }}</span>
        </p>
        <ul>
          <li v-for="change in changes" :key="change.name">{{ learntWords(change) }}</li>
        </ul>
        <Button label="Accept" size="small" @click="accept(box, thing, changes)" />
      </article>
      <p v-if="outcome" role="status">
        <template v-if="asks.length"
          >With these figures Balance asks for {{ asks.join('; ')
          }}<template v-if="ratio"
            >; {{ worstRatioName(bench.patch.brief.sources) }} of the worst recording goes from
            <span class="figure">{{ ratio }}</span></template
          ><template v-if="takesOverload">, and nothing overloads any more</template>.</template
        >
        <template v-else>The settings of the plan hold with these figures.</template>
        <template v-if="!outcome.fits">
          Balance finds no settings that meet every demand of the plan: see Levels.</template
        >
      </p>
      <p v-else class="quiet">Working out what Balance would ask for</p>
    </template>
    <p v-else class="quiet">
      {{
        readings
          ? 'The readings agree with the figures of the plan so far.'
          : 'No readings yet. Readings correct the figures of the boxes, and with them the plan.'
      }}
    </p>
  </section>
</template>

<style scoped>
.changes,
article {
  display: grid;
  gap: 8px;
  justify-items: start;
}
ul {
  margin: 0;
  padding-left: 18px;
}
</style>
