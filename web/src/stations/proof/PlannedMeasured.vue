<script setup lang="ts">
import type { Run } from '@iron-hush/core/levels'
import { compareWithRun } from '@iron-hush/core/measure'
import type { ChannelMeasurement } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { comparisonHint } from '@iron-hush/core/words'
import { computed } from 'vue'

/** Measured figures of a channel beside those planned for its recording. */
const props = defineProps<{ channel: ChannelMeasurement; run: Run | undefined }>()
const compared = computed(() => (props.run ? compareWithRun(props.channel, props.run) : []))
const alone = computed(
  () =>
    [
      ['peak', props.channel.peakDbfs, 'dBFS'],
      ['RMS', props.channel.rmsDbfs, 'dBFS'],
      ['speech', props.channel.speechDbfsA, 'dBFS(A)'],
      [
        props.channel.pauses ? 'noise in the pauses' : 'quietest moments',
        props.channel.noiseDbfsA,
        'dBFS(A)',
      ],
    ] as const,
)
const db = (value: number | null) => (value === null ? '\u2013' : signed(value))
const plus = (value: number | null) => (value !== null && value > 0 ? '+' : '') + db(value)
</script>

<template>
  <table v-if="compared.length && run">
    <thead>
      <tr>
        <th scope="col">{{ run.end.boxName }}, {{ run.end.name }}</th>
        <th scope="col">planned</th>
        <th scope="col">measured</th>
        <th scope="col">difference</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in compared" :key="row.figure">
        <th scope="row">
          {{ row.figure }} <span class="unit">{{ row.unit }}</span
          ><small v-if="comparisonHint(row)">{{ comparisonHint(row) }}</small>
        </th>
        <td class="figure">{{ db(row.predicted) }}</td>
        <td class="figure">{{ db(row.measured) }}</td>
        <td class="figure" :class="{ off: row.off }">{{ plus(row.differenceDb) }}</td>
      </tr>
    </tbody>
  </table>
  <table v-else>
    <tbody>
      <tr v-for="[name, value, unit] in alone" :key="name">
        <th scope="row">{{ name }} <span class="unit">{{ unit }}</span></th>
        <td class="figure">{{ db(value) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  font-size: var(--small);
  width: 100%;
}
th {
  text-align: left;
  font-weight: 500;
  font-stretch: 88%;
  padding: 3px 6px 3px 0;
}
thead th {
  color: var(--quiet);
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
/* another than planned: whether that is bad the words say */
.off {
  color: var(--brass-ink);
  font-weight: 650;
}
small {
  display: block;
  color: var(--quiet);
  font-size: var(--small);
  line-height: 1.2;
}
</style>
