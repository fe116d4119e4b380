<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref, useTemplateRef } from 'vue'
import { channelsOf } from '@iron-hush/core/levels'
import type { ProofRecord } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { clipFacts, clipTexts } from '@iron-hush/core/words'
import ChangeList from '../../parts/ChangeList.vue'
import { useClipFiles } from '../../state/clip-files'
import { useProofs } from '../../state/proofs'
import { useScene } from '../../state/scene'
import { useTakes } from '../../state/takes'
import ComparePanel from './ComparePanel.vue'
import ClipWaves from './ClipWaves.vue'
import LearntCeiling from './LearntCeiling.vue'
import FindingList from './FindingList.vue'
import PlannedMeasured from './PlannedMeasured.vue'
import { markName, shownFindings } from '@iron-hush/core/report'
import { usePlannedClip } from './planned-clip'
import WhatExplains from './WhatExplains.vue'
import WorstPeak from './WorstPeak.vue'

/** One clip: what it is, what is wrong in it, and what was measured beside what the plan said. */
const props = defineProps<{ proof: ProofRecord }>()
const scene = useScene()
const proofs = useProofs()
const clipFiles = useClipFiles()
const waves = useTemplateRef('waves')
const comparing = ref(false)
function keep(event: Event): void {
  const { id } = props.proof
  if ((event.target as HTMLInputElement).checked) void clipFiles.keepSound(id)
  else clipFiles.dropSound(id)
}
function forget(): void {
  clipFiles.dropSound(props.proof.id)
  proofs.forget(props.proof)
}
const measurement = computed(() => props.proof.measurement)
const findings = computed(() => shownFindings(measurement.value))
const tone = computed(() => measurement.value.channels.find((channel) => channel.tone)?.tone)
const lufs = (value: number | null | undefined) =>
  value === null || value === undefined ? '\u2013' : signed(value)
const recordings = computed(() => [
  { id: '', name: 'no recording of the plan' },
  ...(scene.levels ? channelsOf(scene.levels).map(({ id, name }) => ({ id, name })) : []),
])

const takes = useTakes()
const takeChoices = computed(() => [
  { id: '', name: 'no take' },
  ...takes.list.map(({ id, number }) => ({ id, name: `Take ${number}` })),
])
function chooseTake(id: string): void {
  const take = takes.list.find((each) => each.id === id)
  proofs.changeTake(props.proof, take ? { id, number: take.number, laterS: 0, by: 'hand' } : null)
}
const { taken, patch, changes, runs } = usePlannedClip(() => props.proof)
/** Marks made on Roll while this was recorded, in seconds of the clip. */
const marks = computed(() =>
  (taken.value?.marks ?? [])
    .map(({ kind, atS, note }) => ({
      atS: atS - (props.proof.take?.laterS ?? 0),
      words: note || markName(kind),
    }))
    .filter(({ atS }) => atS >= 0 && atS <= measurement.value.lengthS),
)
</script>

<template>
  <article :aria-label="measurement.clip">
    <header>
      <h2>{{ measurement.clip }}</h2>
      <p class="facts">
        {{ clipFacts(measurement) }}
      </p>
      <Select
        :model-value="proof.recording"
        :options="recordings"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Compared with"
        @update:model-value="proofs.change(proof, $event)"
      />
      <Select
        v-if="takes.list.length"
        :model-value="proof.take?.id ?? ''"
        :options="takeChoices"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Take"
        :title="proof.take && proof.take.by !== 'hand' ? `known by its ${proof.take.by}` : undefined"
        @update:model-value="chooseTake($event)"
      />
      <Button
        label="Compare"
        severity="secondary"
        size="small"
        :aria-expanded="comparing"
        @click="comparing = !comparing"
      />
      <button type="button" class="forget" @click="forget()">Forget</button>
    </header>
    <ComparePanel v-if="comparing" :clips="proofs.list" :chosen="proof" @close="comparing = false" />
    <p v-if="clipTexts(measurement).length" class="facts">{{ clipTexts(measurement).join(' \u00b7 ') }}</p>
    <p v-for="remark in measurement.remarks" :key="remark" class="tone-ceiling">&#9650; {{ remark }}</p>
    <FindingList
      v-if="findings.length"
      :findings
      @show="(range, finding) => waves?.show(range, finding)"
      @draw="waves?.draw($event)"
    />
    <p v-else-if="tone" class="finding">
      A test tone of <span class="figure">{{ tone.hz.toFixed(tone.hz < 100 ? 1 : 0) }} Hz</span> at
      <span class="figure">{{ signed(tone.levelDbfs) }} dBFS</span>, its harmonics
      <span class="figure">{{ signed(tone.distortionDb) }} dB</span>.
    </p>
    <p v-else class="finding">
      Nothing was found. Looked for: clipping and its shape, hum, wind, pops, rustle, dropouts, clicks,
      automatic gain, channels that are silent, inverted or late. Not looked for: echo, distortion in a codec,
      what is said. Listen to it once.
    </p>
    <ClipWaves ref="waves" :measurement :findings :marks :file="clipFiles.files.get(proof.id)">
      <label
        ><input type="checkbox" :checked="clipFiles.kept.has(proof.id)" @change="keep($event)" /> keep the
        sound in this browser</label
      >
    </ClipWaves>
    <p v-if="measurement.loudness" class="facts">
      Loudness {{ lufs(measurement.loudness.integratedLufs) }} LUFS, range
      {{ lufs(measurement.loudness.rangeLu) }} LU, loudest 3 s
      {{ lufs(measurement.loudness.shortTermLufs) }} LUFS; true peak
      {{ measurement.channels.map(({ truePeakDbtp }) => lufs(truePeakDbtp)).join(' and ') }} dBTP
    </p>
    <section v-for="(channel, index) in measurement.channels" :key="`figures ${index}`" class="figures">
      <div>
        <h3>
          The highest peak, sample by sample{{
            measurement.channels.length > 1 ? `, channel ${index + 1}` : ''
          }}
        </h3>
        <WorstPeak :channel />
      </div>
      <div>
        <h3>{{ runs[index] ? 'Planned against measured' : 'Measured' }}</h3>
        <ChangeList
          v-if="runs[index] && changes.length"
          :since="`Planned with the controls as they stood at take ${taken?.number}. Since then`"
          :changes
        />
        <PlannedMeasured :channel :run="runs[index]" />
        <LearntCeiling
          v-if="runs[index]"
          :channel
          :run="runs[index]!"
          :clip="measurement.clip"
          :scene-id="proof.scene"
        />
        <WhatExplains
          v-if="runs[index] && patch"
          :channel
          :patch
          :run="runs[index]!"
          :clip="measurement.clip"
          :scene-id="proof.scene"
        />
      </div>
    </section>
  </article>
</template>

<style scoped>
article {
  padding: 12px 18px 20px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 8px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
}
h2 {
  font-size: var(--title);
  font-stretch: 84%;
}
h3 {
  font-size: var(--small);
  font-stretch: 88%;
  font-weight: 650;
  padding-bottom: 4px;
}
.facts {
  flex: 1;
  color: var(--quiet);
  font-size: var(--body);
}
.forget {
  border: 0;
  background: none;
  text-decoration: underline;
  text-underline-offset: 3px;
  color: var(--quiet);
  cursor: pointer;
}
.finding {
  font-size: var(--lead);
  max-width: 90ch;
}
.figures {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) minmax(300px, 1.4fr);
  gap: 24px;
  padding-top: 6px;
}
@media (max-width: 700px) {
  article {
    padding: 12px 16px 20px;
  }
  .facts {
    flex-basis: 100%;
  }
  .figures {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
