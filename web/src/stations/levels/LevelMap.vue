<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import { type Column, type Run, loudestIn, wholePeakAtSourceDb, whereItStops } from '@iron-hush/core/levels'
import MapColumn from './MapColumn.vue'
import MapHatches from './MapHatches.vue'
import { domainOf, type ScaleMode, shiftOf } from './scale'

const props = defineProps<{
  run: Run
  columns: Column[]
  mode: ScaleMode
  selected: number
  pins: string[]
  /** The noise of the place in words, and the words for the three moments. */
  placeWords: string
  momentWords: { loudest: string; typical: string; quietest: string }
  /** How far a loud moment may yet lie over the plan. */
  spreadDb: number
  /** Whether what the microphone hears beside its source is drawn: the noise of the place, the room's own echo. */
  ambience: boolean
}>()
const emit = defineEmits<{ choose: [index: number] }>()

const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame, { width: 1200, height: 400 })
const left = 64
const right = 18
const top = 10
const bottom = 4
const gap = 5

const domain = computed(() => domainOf(props.mode, props.run))
const y = computed(() =>
  scaleLinear([domain.value.low, domain.value.high], [height.value - bottom, top]).clamp(true),
)
const step = computed(() => (width.value - left - right) / props.columns.length)
const steady = computed(() => props.mode !== 'volts')
const wholeShift = computed(() => (props.mode === 'dbfs' ? props.run.points.at(-1)!.gainFromSourceDb : 0))
const figure = (db: number) =>
  Object.is(Math.round(db * 10), -0) ? '0.0' : db.toFixed(1).replace('-', '\u2212')

/** The column from which on nothing arrives. */
const deadFrom = computed(() => {
  const stops = whereItStops(props.run)
  const index = props.columns.findIndex(({ part }) => stops && part === stops.part)
  return index < 0 ? undefined : index
})
function wholeOf({ ceiling }: Column, shift: number): number | undefined {
  const whole = wholePeakAtSourceDb(props.run, ceiling)
  return whole === undefined ? undefined : y.value(whole + shift)
}
/** Everything one column draws, in pixels. */
const drawn = computed(() =>
  props.columns.map((column, index) => {
    const x = left + index * step.value
    if (deadFrom.value !== undefined && index >= deadFrom.value)
      return { index, x, reading: false as const, dead: true, column }
    const shift = shiftOf(props.mode, props.run, column)
    if (shift === undefined) return { index, x, reading: false as const, dead: false, column }
    const floor = y.value(column.noiseAtSourceDb + shift)
    const before =
      10 *
      Math.log10(
        Math.max(1e-30, 10 ** (column.noiseAtSourceDb / 10) - 10 ** (column.ownNoiseAtSourceDb / 10)),
      )
    const pause =
      column.pauseNoiseAtSourceDb - column.noiseAtSourceDb > 1 && props.run.pauseRiseDb > 1
        ? y.value(column.pauseNoiseAtSourceDb + shift)
        : undefined
    return {
      index,
      x,
      reading: true as const,
      column,
      whole: wholeOf(column, shift),
      ceiling: column.ceiling && y.value(column.ceiling.atSourceDb + shift),
      floor,
      // the stage's own part stands on what came before it
      own: Number.isFinite(column.ownNoiseAtSourceDb) ? Math.max(0, y.value(before + shift) - floor) : 0,
      pause,
      peak: y.value(props.run.atSource.peak + shift),
      typical: y.value(props.run.atSource.typical + shift),
      quietest: y.value(props.run.atSource.quietest + shift),
      shift,
    }
  }),
)
const narrowest = computed(() => {
  const { tightest } = props.run
  const index = props.columns.findIndex(({ points }) => tightest && points.includes(tightest.point))
  const column = drawn.value[index]
  return tightest && column?.reading
    ? { ...column, headroomDb: tightest.ceiling.headroomDb, shape: tightest.ceiling.shape }
    : undefined
})
const shapeWords = { flat: 'cut flat', bent: 'bends', sagging: 'sags' }
const noisiest = computed(() => {
  const share = props.run.shares[0]
  const index = props.columns.findIndex(
    ({ points }) => share && points.some((point) => props.run.points[point]!.node === share.node),
  )
  const column = drawn.value[index]
  return share && column?.reading ? { ...column, share: share.share } : undefined
})
/** Clear of the narrowest column, where that stands at the left. */
const voiceX = computed(() =>
  narrowest.value && narrowest.value.x < left + 120
    ? Math.max(left + 146, narrowest.value.x + step.value + 6)
    : left + 8,
)
const band = computed(() => {
  const { peak, typical, quietest } = props.run.atSource
  const at = (db: number) => ({ y: y.value(db + wholeShift.value), db: db + wholeShift.value })
  return { above: at(peak + props.spreadDb), peak: at(peak), typical: at(typical), quietest: at(quietest) }
})
/** What the microphone hears beside its source: one height each, and how much of it there is together. */
const ambient = computed(() => {
  const { placeNoise, echo } = props.run.atSource
  if (!props.ambience || !steady.value) return undefined
  const at = (db: number) => (Number.isFinite(db) ? y.value(db + wholeShift.value) : undefined)
  const together = 10 * Math.log10(10 ** (placeNoise / 10) + 10 ** (echo / 10))
  return { place: at(placeNoise), echo: at(echo), together: at(together) }
})
const echoWords = computed(
  () =>
    `the room\u2019s own echo, ${Math.round(props.run.atSource.echo)} dB(A): direct sound ${figure(props.run.atSource.typical - props.run.atSource.echo)} dB over it`,
)
const summary = computed(
  () =>
    `Level map of ${props.run.entry.name} to ${props.run.end.boxName}. ` +
    props.columns
      .map(
        (column) =>
          `${column.partName}, ${column.name}: floor ${figure(column.noiseAtSourceDb)}${column.ceiling ? `, ceiling ${figure(column.ceiling.atSourceDb)}, headroom ${figure(column.ceiling.headroomDb)}` : ''}`,
      )
      .join('; '),
)
</script>

<template>
  <div ref="frame" class="map">
    <svg :width :height role="img" :aria-label="summary">
      <MapHatches />

      <g v-for="line in domain.lines" :key="line">
        <line :x1="left" :x2="width - right" :y1="y(line)" :y2="y(line)" stroke="var(--rule)" />
        <text class="figure axis" :x="left - 8" :y="y(line) + 4">
          {{ String(line).replace('-', '\u2212') }}
        </text>
      </g>
      <text class="axis-title" :transform="`translate(14 ${height / 2}) rotate(-90)`">
        {{ domain.title }}
      </text>

      <!-- what the microphone hears beside it, behind everything -->
      <rect
        v-if="ambient?.together !== undefined"
        class="ambience"
        :x="left"
        :width="Math.max(0, width - left - right)"
        :y="ambient.together"
        :height="Math.max(0, height - bottom - ambient.together)"
        fill="url(#hatch-place)"
      />

      <!-- the voice -->
      <template v-if="steady">
        <rect
          class="soft"
          :x="left"
          :width="Math.max(0, width - left - right)"
          :y="band.above.y"
          :height="Math.max(0, band.peak.y - band.above.y)"
          fill="url(#soft-edge)"
        />
        <rect
          :x="left"
          :width="Math.max(0, width - left - right)"
          :y="band.peak.y"
          :height="Math.max(0, band.quietest.y - band.peak.y)"
          fill="var(--brass-wash)"
        />
        <line
          v-for="edge in ['peak', 'quietest'] as const"
          :key="edge"
          :x1="left"
          :x2="width - right"
          :y1="band[edge].y"
          :y2="band[edge].y"
          stroke="var(--brass)"
          stroke-width="1.6"
        />
        <line
          :x1="left"
          :x2="width - right"
          :y1="band.typical.y"
          :y2="band.typical.y"
          stroke="var(--brass-ink)"
          stroke-width="2.4"
        />
      </template>
      <template v-else>
        <g v-for="each in drawn" :key="each.index">
          <template v-if="each.reading">
            <rect
              :x="each.x"
              :width="step"
              :y="each.peak"
              :height="Math.max(0, each.quietest - each.peak)"
              fill="var(--brass-wash)"
            />
            <line
              :x1="each.x"
              :x2="each.x + step"
              :y1="each.typical"
              :y2="each.typical"
              stroke="var(--brass-ink)"
              stroke-width="2.4"
            />
          </template>
          <text
            v-else-if="!each.dead"
            class="none"
            :transform="`translate(${each.x + step / 2 + 4} ${height / 2}) rotate(-90)`"
          >
            {{ each.column.domain === 'digital' ? 'digital: no volts here' : 'in the air' }}
          </text>
        </g>
      </template>

      <g v-for="each in drawn" :key="each.index">
        <template v-if="each.reading">
          <MapColumn
            :x="each.x + gap"
            :width="Math.max(0, step - 2 * gap)"
            :top
            :bottom="height - bottom"
            :ceiling="each.ceiling"
            :floor="each.floor"
            :own="each.own"
            :pause="each.pause"
            :whole="each.whole"
          />
          <g v-if="pins.includes(`${each.column.part}.${each.column.name}`)" class="pin">
            <rect
              :x="each.x + 1"
              :width="step - 2"
              :y="top"
              :height="height - top - bottom"
              fill="none"
              stroke="var(--ink)"
              stroke-dasharray="1 3"
            />
            <text class="figure" :x="each.x + step / 2" :y="each.floor - 5">
              {{ figure(each.column.noiseAtSourceDb + each.shift) }}
            </text>
            <text v-if="each.column.ceiling" class="figure" :x="each.x + step / 2" :y="each.ceiling! + 14">
              {{ figure(each.column.ceiling.atSourceDb + each.shift) }}
            </text>
          </g>
        </template>
        <text
          v-else-if="each.dead"
          class="none"
          :transform="`translate(${each.x + step / 2 + 4} ${height / 2}) rotate(-90)`"
        >
          nothing arrives
        </text>
        <rect
          class="hit"
          :class="{ hand: each.index === selected }"
          :x="each.x + 1"
          :y="top - 4"
          :width="Math.max(0, step - 2)"
          :height="height - top"
          @click="emit('choose', each.index)"
        />
      </g>

      <template v-if="ambient">
        <template v-for="each in ['place', 'echo'] as const" :key="each">
          <template v-if="ambient[each] !== undefined">
            <line
              :x1="left"
              :x2="width - right"
              :y1="ambient[each]"
              :y2="ambient[each]"
              stroke="var(--ink)"
              :stroke-dasharray="each === 'place' ? '2 4' : '8 4'"
            />
            <text
              class="words halo place"
              :class="{ end: each === 'echo' }"
              :x="each === 'place' ? left + 8 : width - right - 8"
              :y="ambient[each]! - 5"
            >
              {{ each === 'place' ? placeWords : echoWords }}
            </text>
          </template>
        </template>
      </template>
      <template v-if="steady">
        <text
          v-for="edge in ['peak', 'typical', 'quietest'] as const"
          :key="edge"
          class="words halo voice"
          :x="voiceX"
          :y="
            edge === 'quietest' && band.quietest.y - band.typical.y < 13
              ? band[edge].y + 12
              : band[edge].y - 5
          "
        >
          {{ momentWords[edge === 'peak' ? 'loudest' : edge] }}
          <tspan class="figure">{{ figure(band[edge].db) }}</tspan>
        </text>
      </template>

      <g v-if="narrowest">
        <rect
          v-if="narrowest.headroomDb < 0"
          :x="narrowest.x + gap"
          :width="Math.max(0, step - 2 * gap)"
          :y="narrowest.whole ?? narrowest.peak"
          :height="Math.max(2, narrowest.ceiling! - (narrowest.whole ?? narrowest.peak))"
          fill="var(--iron)"
        />
        <rect
          :x="narrowest.x + 1"
          :width="Math.max(0, step - 2)"
          :y="top - 5"
          :height="height - top - bottom + 6"
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.4"
          stroke-dasharray="4 3"
        />
        <text
          class="words halo strong"
          :class="{ iron: narrowest.headroomDb < 0 }"
          :x="Math.min(Math.max(narrowest.x + step / 2, left + 80), width - right - 80)"
          :y="(narrowest.headroomDb < 0 ? narrowest.ceiling! : Math.max(narrowest.ceiling!, top + 12)) + 16"
        >
          {{
            narrowest.headroomDb < 0
              ? `${shapeWords[narrowest.shape]} ${figure(-narrowest.headroomDb)} dB under the peak`
              : `narrowest: ${figure(narrowest.headroomDb)} dB`
          }}
        </text>
      </g>
      <text
        v-if="narrowest?.whole !== undefined"
        class="words halo strong"
        :x="Math.min(Math.max(narrowest.x + step / 2, left + 90), width - right - 90)"
        :y="narrowest.whole - 5"
      >
        {{ loudestIn(run).toLowerCase() }}
      </text>
      <text
        v-if="noisiest"
        class="words halo strong slate"
        :x="Math.min(Math.max(noisiest.x + step / 2, left + 50), width - right - 50)"
        :y="noisiest.floor - 7"
      >
        {{ Math.round(noisiest.share * 100) }} % of the hiss
      </text>
    </svg>
  </div>
</template>

<style scoped src="./map.css"></style>
<style scoped>
.words {
  font-stretch: 82%;
  pointer-events: none;
}
.words .figure {
  font-size: 10.5px;
}
.halo {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3.5px;
  stroke-linejoin: round;
}
.voice {
  fill: var(--brass-ink);
  font-weight: 600;
}
.place {
  fill: var(--quiet);
}
.end {
  text-anchor: end;
}
.strong {
  text-anchor: middle;
  font-weight: 650;
}
.iron {
  fill: var(--iron);
}
.slate {
  fill: var(--slate-deep);
}
.pin text {
  text-anchor: middle;
  font-size: 10.5px;
}
.hand {
  fill: var(--ink);
  fill-opacity: 0.05;
}
</style>
