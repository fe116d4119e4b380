<script setup lang="ts">
import { computed } from 'vue'
import { loudestIn, type Run } from '@iron-hush/core/levels'
import { plainDecibels, signed } from '@iron-hush/core/units'
import { loudestWords, overloadWords } from '@iron-hush/core/words'
import { gap, isSmall, marginFor, type MapProps, type useMapGeometry } from './map-geometry'

/** Labels on the level map: moments, noise of the place, the narrowest column and the noisiest. */
const props = defineProps<{
  run: Run
  width: number
  height: number
  placeWords: string
  momentWords: MapProps['momentWords']
  geometry: { [Key in keyof Geometry]: Geometry[Key]['value'] }
}>()
type Geometry = Pick<
  ReturnType<typeof useMapGeometry>,
  'step' | 'steady' | 'band' | 'drawn' | 'ambient' | 'narrowest' | 'noisiest'
>
const margin = computed(() => marginFor(props.width))
const step = computed(() => props.geometry.step)
const steady = computed(() => props.geometry.steady)
const band = computed(() => props.geometry.band)
const ambient = computed(() => props.geometry.ambient)
const narrowest = computed(() => props.geometry.narrowest)
const noisiest = computed(() => props.geometry.noisiest)
/** Clear of the narrowest column, where that is at the left. */
const voiceX = computed(() =>
  narrowest.value && narrowest.value.x < margin.value.left + 120
    ? Math.max(margin.value.left + 146, narrowest.value.x + step.value + 6)
    : margin.value.left + 8,
)
/** Approximate width of the words, px: they go below their line where a ceiling would run through them. */
const wordsWidth = 140
const peakBelow = computed(
  () =>
    band.value.typical.y - band.value.peak.y > 29 &&
    props.geometry.drawn.some(
      (column) =>
        column.reading &&
        column.ceiling !== undefined &&
        column.x < voiceX.value + wordsWidth &&
        column.x + step.value > voiceX.value &&
        Math.abs(column.ceiling - (band.value.peak.y - 9)) < 12,
    ),
)
/** Where a moment is written: on its line. The quietest is beside the typical where there is no room between them. */
function wordsAt(edge: 'peak' | 'typical' | 'quietest'): { x: number; y: number } {
  const { typical, quietest } = band.value
  const beside = edge === 'quietest' && quietest.y - typical.y < 15
  const y = beside ? typical.y - 5 : band.value[edge].y + (edge === 'peak' && peakBelow.value ? 12 : -5)
  return { x: voiceX.value + (beside ? 100 : 0), y }
}
/** The part that fits. */
const placeShort = computed(() =>
  isSmall(props.width) ? `place ${Math.round(props.run.atSource.placeNoise)} dB(A)` : props.placeWords,
)
/** The words for the place stand over their line, or under it where those of a moment are near. */
const placeY = computed(() => {
  const line = ambient.value?.place ?? 0
  const moments = steady.value
    ? (['peak', 'typical', 'quietest'] as const).map((edge) => wordsAt(edge).y)
    : []
  return moments.some((y) => Math.abs(y - (line - 5)) < 13) ? line + 13 : line - 5
})
/** The words for the echo stand under their line where the voice is close above it, and clear of those for the place. */
const echoBelow = computed(() => {
  const { echo, place } = ambient.value ?? {}
  if (echo === undefined) return false
  const close = Math.abs(band.value.quietest.y - echo) < 18
  return close && (place === undefined || Math.abs(placeY.value - (echo + 13)) > 12)
})
/** Under the ceiling of the narrowest column, and in sight. */
const narrowestY = computed(() => {
  const { headroomDb = 0, ceiling = 0 } = narrowest.value ?? {}
  return (headroomDb < 0 ? ceiling : Math.max(ceiling, margin.value.top + 12)) + 16
})
/** The label of the loudest moment is over its line, or under it and the words under the ceiling if those are near. */
const loudestY = computed(() => {
  const { headroomDb = 0, whole = 0 } = narrowest.value ?? {}
  const hasRoomAbove = headroomDb < 0 || whole - narrowestY.value > 18
  return hasRoomAbove ? whole - 5 : Math.max(whole + 13, narrowestY.value + 14)
})
const echoWords = computed(() => {
  const { echo, typical } = props.run.atSource
  if (isSmall(props.width)) return `echo ${Math.round(echo)} dB(A)`
  const direct = `${plainDecibels(typical - echo)} ${typical < echo ? 'under' : 'over'} it`
  return `the room\u2019s own echo, ${Math.round(echo)} dB(A): direct sound ${direct}`
})
</script>

<template>
  <g>
    <template v-if="ambient">
      <template v-for="each in ['place', 'echo'] as const" :key="each">
        <template v-if="ambient[each] !== undefined">
          <line
            :x1="margin.left"
            :x2="width - margin.right"
            :y1="ambient[each]"
            :y2="ambient[each]"
            stroke="var(--ink)"
            :stroke-dasharray="each === 'place' ? '2 4' : '8 4'"
          />
          <text
            class="words halo place"
            :class="{ end: each === 'echo' && !echoBelow }"
            :x="each === 'place' || echoBelow ? margin.left + 8 : width - margin.right - 8"
            :y="each === 'place' ? placeY : ambient[each]! + (echoBelow ? 13 : -5)"
          >
            {{ each === 'place' ? placeShort : echoWords }}
          </text>
        </template>
      </template>
    </template>
    <template v-if="steady">
      <text
        v-for="edge in ['peak', 'typical', 'quietest'] as const"
        :key="edge"
        class="words halo voice"
        v-bind="wordsAt(edge)"
      >
        {{ momentWords[edge === 'peak' ? 'loudest' : edge] }}
        <tspan class="figure">{{ signed(band[edge].db) }}</tspan>
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
        :y="margin.top - 5"
        :height="height - margin.top - margin.bottom + 6"
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.4"
        stroke-dasharray="4 3"
      />
      <text
        class="words halo strong"
        :class="{ iron: narrowest.headroomDb < 0 }"
        :x="Math.min(Math.max(narrowest.x + step / 2, margin.left + 80), width - margin.right - 80)"
        :y="narrowestY"
      >
        {{
          narrowest.headroomDb < 0
            ? `${overloadWords[narrowest.shape]} ${signed(-narrowest.headroomDb)} dB under the peak`
            : `narrowest: ${signed(narrowest.headroomDb)} dB`
        }}
      </text>
    </g>
    <text
      v-if="narrowest?.whole !== undefined"
      class="words halo strong"
      :x="Math.min(Math.max(narrowest.x + step / 2, margin.left + 90), width - margin.right - 90)"
      :y="loudestY"
    >
      {{ loudestWords[loudestIn(run)].toLowerCase() }}
    </text>
    <text
      v-if="noisiest"
      class="words halo strong slate"
      :x="Math.min(Math.max(noisiest.x + step / 2, margin.left + 50), width - margin.right - 50)"
      :y="noisiest.floor - 7"
    >
      {{ Math.round(noisiest.share * 100) }} % of the hiss
    </text>
  </g>
</template>

<style scoped src="./map.css"></style>
<style scoped>
.words {
  font-stretch: 82%;
  pointer-events: none;
}
.words .figure {
  font-size: var(--small);
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
</style>
