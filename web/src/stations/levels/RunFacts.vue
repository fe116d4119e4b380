<script setup lang="ts">
import Select from 'primevue/select'
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { difference, signed } from '@iron-hush/core/units'
import type { Balance, TrackOdds } from '@iron-hush/core/balance'
import { pricesOf } from '@iron-hush/core/balance'
import { pauseStory, type Run } from '@iron-hush/core/levels'
import { type Control, positionName } from '@iron-hush/core/model'
import { sheets } from '../../print'
import { printedNow } from '../../print/printed'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import TermButton from '../../parts/TermButton.vue'
import HissStrip from './HissStrip.vue'
import { chanceWords, peakWords, ratioName } from '@iron-hush/core/words'
import { chanceLimits } from './odds'

/** Results of the selected run: figures, odds, effect of a step, pauses, and sources of the hiss. */
const props = defineProps<{
  run: Run
  odds: TrackOdds | undefined
  proposal: Balance | undefined
  /** The control under the pointer or selected. */
  control: { key: string; control: Control; locked: boolean } | undefined
  /** Whether there are controls to turn. */
  steps: boolean
}>()
const emit = defineEmits<{ safer: [limit: number] }>()
const scene = useScene()
const gear = useGear()

const after = computed(() => props.proposal?.levels.runs.find(({ id }) => id === props.run.id))
/** Effect of one step of the control either way. Computed once the hand rests: turning comes first. */
const prices = shallowRef<{ to: string; noise: string; headroom: string }[]>([])
function price(): void {
  const set = props.control
  prices.value =
    !set || set.locked || !scene.patch || !scene.levels
      ? []
      : pricesOf(scene.patch, gear.shelf, new Map(), new Set([set.key])).map((each) => ({
          to: positionName(set.control, each.to),
          noise: difference(each.speechToNoiseDb),
          headroom: difference(each.headroomDb),
        }))
}
watch(() => props.control?.key, price, { immediate: true })
watchDebounced(() => scene.levels, price, { debounce: 80 })
/** What automatic gain does to this run over time. */
const pause = computed(() =>
  pauseStory(props.run, (part) => {
    const box = scene.patch?.boxes.find(({ id }) => id === part)
    return box && (scene.patch?.gear.find(({ id }) => id === box.gear) ?? gear.shelf.get(box.gear))
  }),
)
const printing = ref(false)
async function settingsCard(): Promise<void> {
  if (!scene.patch || !scene.levels) return
  printing.value = true
  try {
    const { printSettingsCard } = await sheets.settingsCard()
    await printSettingsCard(scene.patch, gear.shelf, scene.levels, printedNow())
  } finally {
    printing.value = false
  }
}
</script>

<template>
  <p>
    <span class="quiet">{{ run.end.kind === 'listen' ? 'At the ear' : 'Recorded' }}: peaks</span>
    <span class="figure">{{ peakWords(run) }}</span>
    <TermButton class="quiet" term="speech-to-noise">{{ ratioName(run.source) }}</TermButton>
    <span class="figure">{{ signed(run.speechToNoiseDb) }} dB</span>
    <span class="quiet">over the boxes alone</span>
    <span class="figure">{{ signed(run.overBoxesDb) }} dB</span>
    <template v-if="after">
      <span class="settled">after Balance</span>
      <span class="figure settled"
        >{{ peakWords({ end: run.end, peakDb: after.peakDb }) }}, {{ signed(after.speechToNoiseDb) }} dB</span
      >
    </template>
  </p>
  <!-- always there, like the next: what comes and goes would move the controls under the pointer -->
  <p class="steady" aria-label="Tolerance known from">
    <template v-if="odds && run.end.kind === 'recording'">
      <span class="quiet">Clips in</span>
      <span :class="odds.clipping > 0.02 ? 'iron' : 'settled'" class="odds">{{
        chanceWords(odds.clipping)
      }}</span>
      <span
        class="quiet"
        title="Every figure within its tolerance, every voice a little louder or softer than planned: 2000 draws"
        >by tolerances and voice; {{ ratioName(run.source) }}
        <span class="figure narrow"
          >{{ signed(odds.speechToNoiseDb.low) }} to {{ signed(odds.speechToNoiseDb.high) }} dB</span
        ></span
      >
      <Select
        class="limit"
        :model-value="null"
        :options="[...chanceLimits]"
        option-label="words"
        option-value="limit"
        placeholder="keep clipping rarer than&hellip;"
        size="small"
        aria-label="Keep clipping rarer than"
        @update:model-value="emit('safer', $event)"
      />
    </template>
    <span v-else-if="run.end.kind === 'recording'" class="quiet">Computing how sure it is&hellip;</span>
  </p>
  <p v-if="steps" class="prices steady" aria-label="Effect of one step">
    <span class="quiet">{{
      prices.length ? control!.control.name : 'Select a control to see what one step would change.'
    }}</span>
    <span v-for="each in prices" :key="each.to"
      >to <b>{{ each.to }}</b><span class="quiet"> worst {{ ratioName(run.source) }}</span>
      <span class="figure">{{ each.noise }}</span><span class="quiet">least headroom</span>
      <span class="figure">{{ each.headroom }}</span></span
    >
  </p>
  <p v-if="pause" class="prices" aria-label="What automatic gain does">
    <span class="quiet">Automatic gain of {{ pause.partName }}: in a pause the noise is up</span>
    <span v-for="rise in pause.rises" :key="rise.afterS"
      ><span class="figure">{{ signed(rise.db) }} dB</span
      ><span class="quiet">after {{ rise.afterS }} s</span></span
    >
    <span v-if="pause.lossAfterLoudDb >= 0.5" class="quiet"
      >one second after the loudest moment, the next sentence is
      <span class="figure narrow">{{ signed(pause.lossAfterLoudDb) }} dB</span> too low</span
    >
  </p>
  <div class="hiss">
    <span class="quiet">Source of the hiss</span>
    <HissStrip :run worded />
    <button type="button" class="card" :disabled="printing" @click="settingsCard">Settings card</button>
  </div>
</template>

<style scoped>
.figure {
  margin: 0 12px 0 4px;
}
.odds {
  margin: 0 6px;
  font-weight: 600;
}
.narrow {
  margin: 0 12px 0 0;
}
.prices {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.steady {
  display: flex;
  align-items: center;
  height: 22px;
  overflow: hidden;
  white-space: nowrap;
}
.prices.steady {
  flex-wrap: nowrap;
  height: 20px;
}
.limit {
  height: 22px;
  font-size: var(--small);
}
.limit :deep(.p-select-label) {
  padding: 1px 6px;
  font-size: var(--small);
}
/* where there is no room in one line there is no steadiness to keep either */
@media (max-width: 1000px) {
  .steady,
  .prices.steady {
    height: auto;
    min-height: 22px;
    flex-wrap: wrap;
    white-space: normal;
    overflow: visible;
  }
}
.hiss {
  display: flex;
  align-items: center;
  gap: 10px;
}
.card {
  border: 0;
  background: none;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
.settled {
  color: var(--verdigris);
}
.iron {
  color: var(--iron);
}
</style>
