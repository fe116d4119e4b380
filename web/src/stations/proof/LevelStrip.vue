<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { ChannelMeasurement } from '@iron-hush/core/model'
import { clock, signed } from '@iron-hush/core/units'
import { lineOf, ticksOf } from './wave-geometry'

/** Level of one channel over the part that is in sight, with its speech and the noise in its pauses. */
const { channel, fromS, toS, lengthS, height, label } = defineProps<{
  channel: ChannelMeasurement
  fromS: number
  toS: number
  lengthS: number
  height: number
  label: string
}>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height })
const [above, below] = [6, 17]
const deepestDb = -100
const x = (seconds: number) => ((seconds - fromS) / (toS - fromS)) * width.value
const y = (db: number) =>
  above + (Math.max(deepestDb, Math.min(0, db)) / deepestDb) * (height - above - below)
const grid = [0, -20, -40, -60, -80]
const marks = computed(() =>
  [
    { words: 'speech', db: channel.speechDbfsA, tone: 'brass' },
    {
      words: channel.pauses ? 'noise in the pauses' : 'quietest moments',
      db: channel.noiseDbfsA,
      tone: 'slate',
    },
  ].flatMap(({ db, ...rest }) => (db === null ? [] : [{ db, ...rest }])),
)
</script>

<template>
  <div ref="frame" class="strip" :style="{ height: `${height}px` }">
    <svg
      :width
      :height
      role="img"
      :aria-label="`${label}: level from ${clock(fromS, 1)} to ${clock(toS, 1)}, dBFS(A)`"
    >
      <g v-for="db in grid" :key="db">
        <line :x2="width" :y1="y(db)" :y2="y(db)" class="grid" />
        <text class="figure axis" x="4" :y="y(db) + 4">{{ db ? `\u2212${-db}` : '0' }}</text>
      </g>
      <path :d="lineOf(channel.levelsDbfsA, { fromS: 0, toS: lengthS }, x, y)" class="level" />
      <g v-for="{ words, db, tone } in marks" :key="words" :class="tone">
        <line :x2="width" :y1="y(db)" :y2="y(db)" />
        <text class="words" :x="width - 4" :y="y(db) - 4">{{ words }}, {{ signed(db) }} dBFS(A)</text>
      </g>
      <text
        v-for="tick in ticksOf(fromS, toS, width)"
        :key="tick"
        class="figure"
        :x="x(tick) + 2"
        :y="height - 4"
      >
        {{ clock(tick, toS - fromS < 0.5 ? 3 : toS - fromS < 8 ? 1 : 0) }}
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
<style scoped>
.level {
  fill: none;
  stroke: var(--ink);
}
.brass line {
  stroke: var(--brass);
}
.slate line {
  stroke: var(--slate);
  stroke-dasharray: 5 3;
}
</style>
