<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { Heard } from '@iron-hush/core/measure'

/** Levels of two sounds in thirds of an octave, laid over each other at one loudness. */
const { one, other, names } = defineProps<{ one: Heard; other: Heard; names: readonly [string, string] }>()

const [height, left, bottom] = [170, 38, 20]
const drawing = useTemplateRef('drawing')
const size = useElementSize(drawing)
const width = computed(() => Math.max(200, size.width.value))
const rangeDb = 60
/** Both as they would be at one loudness. */
const lines = computed(() => {
  const both = [one, other].map(({ bands, levelDbfsA }) =>
    bands.map(({ hz, levelDbfs }) => ({
      hz,
      db: levelDbfs - (Number.isFinite(levelDbfsA) ? levelDbfsA : 0),
    })),
  )
  const top = Math.max(...both.flat().map(({ db }) => db))
  const y = (db: number) => ((Math.min(rangeDb, top - db) + 3) / (rangeDb + 6)) * (height - bottom)
  return both.map((bands) =>
    bands
      .map(({ hz, db }, index) => `${index ? 'L' : 'M'}${xOf(hz).toFixed(1)},${y(db).toFixed(1)}`)
      .join(' '),
  )
})
const xOf = (hz: number) => left + ((width.value - left) * Math.log10(hz / 25)) / Math.log10(20_000 / 25)
const marks = [
  [100, '100 Hz'],
  [1000, '1 kHz'],
  [10_000, '10 kHz'],
] as const
const levels = [0, 20, 40, 60].map((under) => ({
  y: ((under + 3) / (rangeDb + 6)) * (height - bottom),
  words: under ? `\u2212${under}` : '0 dB',
}))
</script>

<template>
  <figure>
    <svg
      ref="drawing"
      :height
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Levels in thirds of an octave, 25 Hz to 20 kHz: ${names[0]} and ${names[1]}`"
    >
      <g v-for="{ y, words } in levels" :key="words">
        <line :x1="left" :x2="width" :y1="y" :y2="y" class="grid" />
        <text :x="left - 4" :y="y + 4" text-anchor="end">{{ words }}</text>
      </g>
      <g v-for="[hz, words] in marks" :key="hz">
        <line :x1="xOf(hz)" :x2="xOf(hz)" y1="0" :y2="height - bottom" class="grid" />
        <text :x="xOf(hz)" :y="height - 4" text-anchor="middle">{{ words }}</text>
      </g>
      <path :d="lines[0]" class="one" />
      <path :d="lines[1]" class="other" />
    </svg>
    <figcaption>
      <span><i class="one"></i>{{ names[0] }}</span>
      <span><i class="other"></i>{{ names[1] }}</span>
      <span class="quiet">at one loudness</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  width: 100%;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
path {
  fill: none;
  stroke-width: 2;
}
path.one {
  stroke: var(--brass);
}
path.other {
  stroke: var(--slate);
  stroke-dasharray: 6 3;
}
.grid {
  stroke: var(--rule);
}
text {
  font-size: 12px;
  font-stretch: 85%;
  fill: var(--quiet);
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  font-size: var(--small);
}
i {
  display: inline-block;
  width: 22px;
  margin-right: 6px;
  vertical-align: middle;
  border-top: 2px solid var(--brass);
}
i.other {
  border-top: 2px dashed var(--slate);
}
</style>
