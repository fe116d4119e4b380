<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { expectWords, lineUpSentences, resultWords, stepDetail, stepTitle } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import type { LiningUp, ShownStep } from './lining-up'
import PlaySignal from './PlaySignal.vue'
import type { StandInDevice } from './stand-in'
import StepAnswer from './StepAnswer.vue'
import TrialPanel from './TrialPanel.vue'

/** One step: what to do, what to expect, what was read and what that means; the current one is open. */
const { step, number, lining, standIn, open } = defineProps<{
  step: ShownStep
  number: number
  lining: LiningUp
  standIn: StandInDevice
  open: boolean
}>()
const emit = defineEmits<{ choose: [] }>()
const scene = useScene()
const gear = useGear()
const { trackName, drop } = lining

const title = computed(() => stepTitle(step))
const thing = computed(() => {
  const box = scene.openPatch.boxes.find(({ id }) => id === step.box)
  return box && gear.of(box.gear)
})
const expected = computed(() => expectWords(step, trackName))
const read = computed(() => (step.reading ? resultWords(step, step.reading, thing.value, trackName) : ''))
const meanings = computed(() =>
  step.findings.map((finding) => ({
    severity: finding.severity,
    settled: finding.code === 'as planned' || finding.code === 'peaks as planned',
    ...lineUpSentences(finding, trackName),
  })),
)
const shownMoment = computed(() => {
  if (!step.reading) return ''
  const at = new Date(step.reading.at)
  const today = at.toDateString() === new Date().toDateString()
  return today
    ? at.toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })
    : at.toLocaleDateString([], { day: 'numeric', month: 'short', year: 'numeric' })
})
/** A step with a fault gets no tick. */
const trouble = computed(
  () =>
    (step.reading && !step.answered) ||
    step.findings.some(({ severity }) => severity === 'dead' || severity === 'harmful'),
)
</script>

<template>
  <li :class="{ open, done: step.reading }">
    <button class="head" :aria-expanded="open" @click="emit('choose')">
      <span class="mark" :class="{ trouble }" aria-hidden="true">{{
        step.reading ? (trouble ? '\u25B2' : '\u2713') : number
      }}</span>
      <span class="title"
        ><b>{{ title }}</b>
        <small v-if="open || !step.answered">{{ stepDetail(step) }}</small>
        <small v-if="step.stale" class="stale">Done earlier with a different chain; do it again.</small>
      </span>
      <span class="read">
        <template v-if="step.reading"
          ><span>{{ read }}</span> <span class="quiet">{{ shownMoment }}</span
          ><small v-for="each in meanings" :key="each.what" :class="each.severity" class="meaning">{{
            each.what
          }}</small></template
        >
        <span v-else class="quiet">{{ expected }}</span>
      </span>
    </button>
    <div v-if="open" class="inside">
      <PlaySignal v-if="step.play" :signal="step.play" :out-dbu="step.play.outDbu" />
      <TrialPanel v-if="step.kind === 'trial'" :step :lining :stand-in />
      <StepAnswer v-else :step :lining :stand-in />
      <div v-if="step.reading" class="meant" role="status">
        <p v-for="each in meanings" :key="each.what" :class="{ settled: each.settled }">
          <b>{{ each.what }}</b> {{ each.why }} {{ each.remedy }}
        </p>
        <Button label="Delete this reading" size="small" severity="secondary" @click="drop(step)" />
      </div>
    </div>
  </li>
</template>

<style scoped>
li {
  border-bottom: 1px solid var(--rule);
}
li.open {
  border: 1px solid var(--ink);
  background: var(--sheet);
  margin: -1px 0 0;
}
.head {
  width: 100%;
  display: grid;
  grid-template-columns: 28px minmax(0, 1.5fr) minmax(0, 1fr);
  gap: 10px;
  text-align: left;
  border: 0;
  background: none;
  padding: 9px 8px;
  cursor: pointer;
}
.mark {
  font: var(--small) var(--figures);
  font-stretch: 75%;
  color: var(--quiet);
  line-height: 1.6;
}
.done .mark {
  color: var(--verdigris);
  font-weight: 700;
}
.done .mark.trouble {
  color: var(--iron);
}
.title b {
  font-weight: 600;
}
small {
  display: block;
  font-size: var(--small);
  color: var(--quiet);
  line-height: 1.35;
}
.stale {
  color: var(--brass-ink);
}
.meaning.harmful,
.meaning.dead {
  color: var(--iron);
}
.meaning.degraded {
  color: var(--brass-ink);
}
.meaning.note {
  color: var(--verdigris);
}
.inside {
  padding: 2px 12px 12px 46px;
  display: grid;
  gap: 10px;
}
.meant {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
  display: grid;
  gap: 6px;
  justify-items: start;
}
.meant .settled b {
  color: var(--verdigris);
}
@media (max-width: 700px) {
  .head {
    grid-template-columns: 24px minmax(0, 1fr);
  }
  .read {
    grid-column: 2;
  }
  .inside {
    padding: 2px 10px 12px;
  }
}
</style>
