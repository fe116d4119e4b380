<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { Band } from '@iron-hush/core/measure'
import type { ChannelMeasurement } from '@iron-hush/core/model'

/** Spectrum of the stretch in view, and behind it that of the quietest moments in thirds of an octave. */
const { channel, lines, mainsHz, height, label } = defineProps<{
  channel: ChannelMeasurement
  /** Of the part in sight, where the clip is at hand. */
  lines: readonly Band[] | undefined
  /** Marks the mains and their harmonics. */
  mainsHz: number | undefined
  height: number
  label: string
}>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height })
const [above, below, lowestHz, highestHz, rangeDb] = [6, 17, 20, 20_000, 80]
const noise = computed(() =>
  channel.noiseBands.flatMap(({ hz, levelDbfs }) => (levelDbfs === null ? [] : [{ hz, levelDbfs }])),
)
const topDb = computed(
  () =>
    10 *
    Math.ceil(Math.max(-90, ...[...(lines ?? []), ...noise.value].map(({ levelDbfs }) => levelDbfs)) / 10),
)
const x = (hz: number) => (width.value * Math.log(hz / lowestHz)) / Math.log(highestHz / lowestHz)
const y = (db: number) =>
  above + (Math.min(rangeDb, Math.max(0, topDb.value - db)) / rangeDb) * (height - above - below)
const line = computed(() =>
  (lines ?? [])
    .map(({ hz, levelDbfs }, index) => `${index ? 'L' : 'M'}${x(hz).toFixed(1)} ${y(levelDbfs).toFixed(1)}`)
    .join(' '),
)
/** Harmonics as far as they stand apart. */
const harmonics = computed(() =>
  mainsHz === undefined ? [] : [1, 2, 3, 4, 5, 6, 8, 10].map((times) => times * mainsHz),
)
const grid = computed(() => [0, 20, 40, 60].map((under) => topDb.value - under))
const marks = [
  [100, '100 Hz'],
  [1000, '1 kHz'],
  [10_000, '10 kHz'],
] as const
const inDb = (db: number) => (db < 0 ? `\u2212${-db}` : `${db}`)
</script>

<template>
  <div ref="frame" class="strip" :style="{ height: `${height}px` }">
    <svg
      :width
      :height
      role="img"
      :aria-label="`${label}: spectrum, 20 Hz to 20 kHz${mainsHz ? `, with the mains of ${mainsHz} Hz and their harmonics` : ''}`"
    >
      <rect
        v-for="band in noise"
        :key="band.hz"
        :x="x(band.hz / 2 ** (1 / 6))"
        :y="y(band.levelDbfs)"
        :width="Math.max(1, x(band.hz * 2 ** (1 / 6)) - x(band.hz / 2 ** (1 / 6)) - 1)"
        :height="Math.max(0, height - below - y(band.levelDbfs))"
        class="noise"
      />
      <g v-for="db in grid" :key="db">
        <line :x2="width" :y1="y(db)" :y2="y(db)" class="grid" />
        <text class="figure axis" x="4" :y="y(db) + 4">{{ inDb(db) }}</text>
      </g>
      <line
        v-for="hz in harmonics"
        :key="hz"
        :x1="x(hz)"
        :x2="x(hz)"
        :y1="above"
        :y2="height - below"
        class="mains"
      />
      <path :d="line" class="line" />
      <text v-for="[hz, words] in marks" :key="hz" :x="x(hz)" :y="height - 4" text-anchor="middle">
        {{ words }}
      </text>
      <text v-if="noise.length" class="words" :x="width - 4" :y="above + 12">
        {{ lines ? 'line: in sight; ' : '' }}blocks: quietest moments in thirds of an octave
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
<style scoped>
.noise {
  fill: var(--slate);
  opacity: 0.3;
}
.line {
  fill: none;
  stroke: var(--brass-ink);
}
.mains {
  stroke: var(--iron);
  stroke-dasharray: 2 3;
}
</style>
