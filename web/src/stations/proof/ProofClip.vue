<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import { clipFindings, compareWithRun } from '@iron-hush/core/measure'
import { channelsOf } from '@iron-hush/core/levels'
import { type ProofRecord, trackKey } from '@iron-hush/core/model'
import { clock, signed } from '@iron-hush/core/units'
import { clipWords, comparisonHint } from '@iron-hush/core/words'
import { useProofs } from '../../state/proofs'
import { useScene } from '../../state/scene'
import WaveStrip from './WaveStrip.vue'
import WorstPeak from './WorstPeak.vue'

/** One clip: what it is, what is wrong in it, and what was measured beside what the plan said. */
const props = defineProps<{ proof: ProofRecord }>()
const scene = useScene()
const proofs = useProofs()
const measurement = computed(() => props.proof.measurement)
const findings = computed(() =>
  clipFindings(measurement.value).map((finding) => ({ ...finding, ...clipWords(finding) })),
)
const recordings = computed(() => [
  { id: '', name: 'no recording of the plan' },
  ...(scene.levels ? channelsOf(scene.levels).map(({ id, name }) => ({ id, name })) : []),
])

/** The run each channel of the clip is held against: the chosen recording, then the next tracks of the same box. */
const runs = computed(() => {
  if (!props.proof.recording || !scene.levels) return []
  const channels = channelsOf(scene.levels)
  const first = channels.findIndex(({ id }) => id === props.proof.recording)
  if (first < 0) return []
  const box = channels[first]!.box
  const tracks = channels.slice(first).filter((channel) => channel.box === box)
  return measurement.value.channels.map((_, index) =>
    scene.levels?.runs.find(({ end }) => end.kind === 'recording' && trackKey(end) === tracks[index]?.id),
  )
})
const compared = computed(() =>
  measurement.value.channels.map((channel, index) =>
    runs.value[index] ? compareWithRun(channel, runs.value[index]) : [],
  ),
)
const db = (value: number | null) => (value === null ? '\u2013' : signed(value))
const plus = (value: number | null) => (value !== null && value > 0 ? '+' : '') + db(value)
</script>

<template>
  <article>
    <header>
      <h2>{{ measurement.clip }}</h2>
      <p class="facts">
        {{ measurement.container }} {{ measurement.codec }}, {{ measurement.bits }} bits,
        {{ (measurement.rateHz / 1000).toFixed(1) }} kHz, {{ measurement.channels.length }} channel{{
          measurement.channels.length === 1 ? '' : 's'
        }}, {{ clock(measurement.lengthS, 1) }}
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
      <button type="button" class="forget" @click="proofs.forget(proof)">Forget</button>
    </header>
    <p v-for="remark in measurement.remarks" :key="remark" class="tone-ceiling">&#9650; {{ remark }}</p>
    <p v-for="(finding, at) in findings" :key="at" class="finding">
      <b class="tone-ceiling">&#9650; channel {{ finding.subject.channel }}: {{ finding.what }}</b>
      {{ finding.why }}
      {{ finding.remedy }}
    </p>
    <p v-if="findings.length === 0">
      No flat tops were found. Looked for: peaks cut flat, at full scale or under it, and silence. Not looked
      for: soft overload, dropouts, wind, pops, hum, polarity. Listen for those.
    </p>
    <section v-for="(channel, index) in measurement.channels" :key="index" class="channel">
      <span class="number figure">{{ index + 1 }}</span>
      <WaveStrip :channel :length-s="measurement.lengthS" :label="`Channel ${index + 1}`" />
      <WorstPeak :channel />
      <table v-if="compared[index]!.length">
        <thead>
          <tr>
            <th scope="col">{{ runs[index]!.end.boxName }}, {{ runs[index]!.end.name }}</th>
            <th scope="col">planned</th>
            <th scope="col">measured</th>
            <th scope="col">off by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in compared[index]" :key="row.figure">
            <th scope="row">
              {{ row.figure }} <span class="unit">{{ row.unit }}</span
              ><small v-if="row.off">{{ comparisonHint(row) }}</small>
            </th>
            <td class="figure">{{ db(row.predicted) }}</td>
            <td class="figure">{{ db(row.measured) }}</td>
            <td class="figure" :class="row.off ? 'tone-ceiling' : ''">{{ plus(row.differenceDb) }}</td>
          </tr>
        </tbody>
      </table>
      <table v-else>
        <tbody>
          <tr
            v-for="[name, value, unit] in [
              ['peak', channel.peakDbfs, 'dBFS'],
              ['RMS', channel.rmsDbfs, 'dBFS'],
              ['speech', channel.speechDbfsA, 'dBFS(A)'],
              [channel.pauses ? 'noise in the pauses' : 'quietest moments', channel.noiseDbfsA, 'dBFS(A)'],
            ] as const"
            :key="name"
          >
            <th scope="row">{{ name }} <span class="unit">{{ unit }}</span></th>
            <td class="figure">{{ db(value) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
  </article>
</template>

<style scoped>
article {
  border-top: 1px solid var(--ink);
  padding: 10px 0 14px;
  display: grid;
  gap: 6px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
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
.channel {
  display: grid;
  grid-template-columns: 18px minmax(0, 1fr) 200px 390px;
  gap: 14px;
  align-items: start;
}
.number {
  padding-top: 38px;
  color: var(--quiet);
}
table {
  border-collapse: collapse;
  font-size: var(--small);
  width: 100%;
}
th {
  text-align: left;
  font-weight: 500;
  font-stretch: 88%;
  padding: 1px 6px 1px 0;
}
thead th {
  color: var(--quiet);
  font-size: var(--small);
}
thead th:not(:first-child),
td {
  text-align: right;
  padding-left: 12px;
  white-space: nowrap;
}
tbody tr {
  border-top: 1px solid var(--rule);
}
small {
  display: block;
  color: var(--quiet);
  font-size: var(--small);
  line-height: 1.2;
}
@media (max-width: 1000px) {
  .channel {
    grid-template-columns: 18px minmax(0, 1fr);
  }
  .channel > :nth-child(n + 3) {
    grid-column: 2;
  }
}
</style>
