<script setup lang="ts">
import { computed } from 'vue'
import type { Bench, LineUpStep } from '@iron-hush/core/lineup'
import { positionName } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { lawToDraw, tensAround } from './law-scale'

/** The law of a level control as it becomes known: what is believed, what is still possible, what was read, what comes next. */
const { bench, steps, step } = defineProps<{
  bench: Bench
  steps: readonly LineUpStep[]
  step: LineUpStep | undefined
}>()

const [width, height] = [420, 300]
const [left, top, right, bottom] = [40, 10, 10, 34]
const law = computed(() => lawToDraw(bench, step))
const points = computed(() => law.value?.found.law.points ?? [])
const typical = computed(() => law.value?.control.gainsDb ?? [])
const scale = computed(() =>
  tensAround([...points.value.flatMap(({ lowDb, highDb }) => [lowDb, highDb]), ...typical.value]),
)
/** There is nothing between two positions of a switch: each has its own column. */
const isSwitch = computed(() => law.value?.control.control.kind === 'switch')
const column = computed(() => (width - left - right) / Math.max(1, points.value.length))
const x = (position: number) =>
  isSwitch.value
    ? left + (position + 0.5) * column.value
    : left + ((width - left - right) * position) / Math.max(1, points.value.length - 1)
const isNearRight = (position: number) => x(position) > 0.85 * width
const y = (db: number) => {
  const { low, high } = scale.value
  return top + ((height - top - bottom) * (high - db)) / (high - low)
}
const point = (position: number, db: number) => `${x(position).toFixed(1)} ${y(db).toFixed(1)}`
/** From one end of a column to the other, where a switch has columns. */
const across = (position: number, db: number) => {
  const half = 0.3 * column.value
  return `M${(x(position) - half).toFixed(1)} ${y(db).toFixed(1)}h${(2 * half).toFixed(1)}`
}
const path = (values: readonly number[]) =>
  values
    .map((db, position) =>
      isSwitch.value ? across(position, db) : `${position ? 'L' : 'M'}${point(position, db)}`,
    )
    .join('')
const band = computed(() => {
  if (isSwitch.value)
    return points.value
      .map(
        ({ lowDb, highDb }, position) =>
          `${across(position, highDb)}v${(y(lowDb) - y(highDb)).toFixed(1)}h${(-0.6 * column.value).toFixed(1)}z`,
      )
      .join('')
  const high = points.value.map(({ highDb }, position) => point(position, highDb))
  const low = points.value.map(({ lowDb }, position) => point(position, lowDb))
  return `M${[...high, ...low.toReversed()].join('L')}z`
})
const read = computed(() => {
  const { readings = [], law: known } = law.value?.found ?? {}
  const out = new Set(known?.outliers.map(({ reading }) => reading))
  return readings.map(({ position, gainDb }, index) => ({ position, gainDb, out: out.has(index) }))
})
/** Where the next readings are asked for. */
const asked = computed(() => {
  const { control, box } = law.value ?? {}
  if (!control || !box) return []
  return steps
    .filter((each) => each.kind === 'tone' && each.box === box && !each.reading)
    .slice(0, 2)
    .map((each, index) => ({
      position: control.positions.indexOf(each.set[0]?.position ?? ''),
      word: index ? 'then' : 'next',
    }))
    .filter(({ position }) => position >= 0)
})
const marks = computed(() => {
  const { control } = law.value ?? {}
  if (!control) return []
  const every = Math.max(1, Math.ceil(control.positions.length / 7))
  return control.positions.flatMap((position, at) =>
    at % every ? [] : [{ at, name: positionName(control.control, position).replace(/ of .*/, '') }],
  )
})
</script>

<template>
  <section v-if="law" class="law">
    <h2>{{ law.boxName }}: {{ law.control.control.name.toLowerCase() }}</h2>
    <p class="quiet">
      Gain in dB. Line: best law. Band: what is still possible. Dotted: the law of the plan.{{
        law.found.relative && law.found.readings.length
          ? ' The level of the tone is not known: the shape of the law is right, its level is the one in the plan.'
          : ''
      }}
    </p>
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Law of ${law.control.control.name}, ${read.length} readings`"
    >
      <g class="grid">
        <template v-for="line in scale.lines" :key="line">
          <line :x1="left" :x2="width - right" :y1="y(line)" :y2="y(line)" />
          <text :x="left - 6" :y="y(line) + 4" text-anchor="end">{{ signed(line, 0) }}</text>
        </template>
        <text v-for="mark in marks" :key="mark.at" :x="x(mark.at)" :y="height - 18" text-anchor="middle">
          {{ mark.name }}
        </text>
        <text :x="width - right" :y="height - 4" text-anchor="end">
          {{ law.control.control.name.toLowerCase() }}
        </text>
      </g>
      <path class="band" :d="band" />
      <path class="typical" :d="path(typical)" />
      <path class="best" :d="path(points.map(({ gainDb }) => gainDb))" />
      <g v-for="each in asked" :key="each.word" class="asked">
        <line :x1="x(each.position)" :x2="x(each.position)" :y1="top" :y2="height - bottom" />
        <text
          :x="x(each.position) + (isNearRight(each.position) ? -5 : 5)"
          :y="height - bottom - 6"
          :text-anchor="isNearRight(each.position) ? 'end' : 'start'"
        >
          {{ each.word }}
        </text>
      </g>
      <template v-for="(each, index) in read" :key="index">
        <path
          v-if="each.out"
          class="out"
          :d="`M${x(each.position) - 5} ${y(each.gainDb) - 5}l10 10m0 -10l-10 10`"
        />
        <rect v-else class="point" :x="x(each.position) - 4" :y="y(each.gainDb) - 4" width="8" height="8" />
      </template>
    </svg>
  </section>
</template>

<style scoped>
.law {
  display: grid;
  gap: 6px;
}
p {
  font-size: var(--small);
}
svg {
  width: 100%;
  max-width: 560px;
  background: var(--sheet);
  border: 1px solid var(--rule);
}
.grid line {
  stroke: var(--rule);
}
text {
  font: var(--small) var(--text);
  font-stretch: 85%;
  fill: var(--quiet);
}
.band {
  fill: var(--brass-wash);
}
.best {
  fill: none;
  stroke: var(--brass-ink);
  stroke-width: 2;
}
.typical {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 2 4;
}
.asked line {
  stroke: var(--ink);
  stroke-dasharray: 4 3;
}
.asked text {
  fill: var(--ink);
}
.point {
  fill: var(--verdigris);
}
.out {
  stroke: var(--iron);
  stroke-width: 2;
}
</style>
