<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import { signed, withMinus } from '@iron-hush/core/units'
import type { Odds } from '@iron-hush/core/balance'
import { askedOfRuns, type Run, whereItStops } from '@iron-hush/core/levels'
import { type Plan, trackKey } from '@iron-hush/core/model'
import { peakWords, ratioName } from '@iron-hush/core/words'
import MapColumn from './MapColumn.vue'
import MapHatches from './MapHatches.vue'
import RunsFacts from './RunsFacts.vue'

/** Every run to a recording side by side, as each file will hold it: voice, ceiling and floors in dBFS. */
const props = defineProps<{
  runs: Run[]
  plan: Plan
  odds: Odds | undefined
  selected: string
  ambience: boolean
}>()
const emit = defineEmits<{ choose: [id: string] }>()

const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame, { width: 1200, height: 400 })
const left = 64
const right = 18
const top = 10
const bottom = 4
const gap = 8
const [lowest, highest] = [-130, 20]
const lines = [-120, -100, -80, -60, -40, -20, 0]
const y = computed(() => scaleLinear([lowest, highest], [height.value - bottom, top]).clamp(true))
const step = computed(() => (width.value - left - right) / Math.max(1, props.runs.length))

const asked = computed(() => askedOfRuns(props.runs, props.plan))
const drawn = computed(() =>
  props.runs.map((run, index) => {
    const stops = whereItStops(run)
    const shift = run.typicalDb - run.atSource.typical
    const at = (levelDb: number) => y.value(levelDb + shift)
    const point = run.tightest && run.points[run.tightest.point]
    const [share] = run.shares
    const track = props.odds?.tracks.find(({ box, track: id }) => box === run.end.box && id === run.end.track)
    const window = asked.value.get(trackKey(run.end))?.window
    const ambient = Math.max(run.atSource.placeNoise, run.atSource.echo)
    return {
      run,
      x: left + index * step.value,
      stops,
      peak: at(run.atSource.peak),
      typical: at(run.atSource.typical),
      quietest: at(run.atSource.quietest),
      // as far over the peak of the file as the narrowest place leaves room
      ceiling: run.tightest && y.value(run.peakDb + run.tightest.ceiling.headroomDb),
      whole: run.peakDb > run.atSource.peak + shift + 0.3 ? y.value(run.peakDb) : undefined,
      headroomDb: run.tightest?.ceiling.headroomDb,
      narrowest: point && `${point.partName}, ${point.name.toLowerCase()}`,
      floor: y.value(run.noiseDb),
      pause: run.pauseRiseDb > 1 ? y.value(run.noiseWithPlaceDb) : undefined,
      ambient: props.ambience && Number.isFinite(ambient) ? at(ambient) : undefined,
      window: window && { high: y.value(window.highestDbfs), low: y.value(window.lowestDbfs) },
      noisiest: share && `${share.partName}, ${share.name.toLowerCase()} ${Math.round(share.share * 100)} %`,
      clipping: track?.clipping,
    }
  }),
)
const summary = computed(
  () =>
    `Runs side by side. ${drawn.value
      .map(
        ({ run, stops, headroomDb, narrowest }) =>
          `${run.source.name} by ${run.entry.name} on ${run.end.boxName}, ${run.end.name}: ${
            stops
              ? 'nothing arrives'
              : `peaks ${peakWords(run)}, ${ratioName(run.source)} ${signed(run.speechToNoiseDb)} dB${headroomDb === undefined ? '' : `, headroom ${signed(headroomDb)} at ${narrowest}`}`
          }`,
      )
      .join('; ')}`,
)
</script>

<template>
  <div class="runs">
    <div ref="frame" class="map">
      <svg :width :height role="img" :aria-label="summary">
        <MapHatches />
        <g v-for="line in lines" :key="line">
          <line :x1="left" :x2="width - right" :y1="y(line)" :y2="y(line)" stroke="var(--rule)" />
          <text class="figure axis" :x="left - 8" :y="y(line) + 4">
            {{ withMinus(line) }}
          </text>
        </g>
        <text class="axis-title" :transform="`translate(14 ${height / 2}) rotate(-90)`">
          dBFS in each file
        </text>
        <g v-for="each in drawn" :key="each.run.id">
          <template v-if="!each.stops">
            <rect
              v-if="each.ambient !== undefined"
              :x="each.x + gap"
              :width="Math.max(0, step - 2 * gap)"
              :y="each.ambient"
              :height="Math.max(0, height - bottom - each.ambient)"
              fill="url(#hatch-place)"
            />
            <rect
              :x="each.x + gap"
              :width="Math.max(0, step - 2 * gap)"
              :y="each.peak"
              :height="Math.max(0, each.quietest - each.peak)"
              fill="var(--brass-wash)"
              stroke="var(--brass)"
            />
            <line
              :x1="each.x + gap"
              :x2="each.x + step - gap"
              :y1="each.typical"
              :y2="each.typical"
              stroke="var(--brass-ink)"
              stroke-width="2.4"
            />
            <MapColumn
              :x="each.x + gap"
              :width="Math.max(0, step - 2 * gap)"
              :top
              :bottom="height - bottom"
              :ceiling="each.ceiling"
              :floor="each.floor"
              :pause="each.pause"
              :whole="each.whole"
            />
            <path
              v-if="each.window"
              class="window"
              :d="`M${each.x + gap - 5} ${each.window.high} h4 m-4 0 V${each.window.low} h4`"
            />
            <text
              v-if="each.window && step > 100"
              class="aim"
              :x="each.x + gap + 3"
              :y="each.window.high + 10"
            >
              aim
            </text>
          </template>
          <text v-else class="none" :x="each.x + step / 2" :y="height / 2">nothing arrives</text>
          <rect
            class="hit"
            :class="{ hand: each.run.id === selected }"
            :x="each.x + 1"
            :y="top - 4"
            :width="Math.max(0, step - 2)"
            :height="height - top"
            @click="emit('choose', each.run.id)"
          />
        </g>
      </svg>
    </div>
    <RunsFacts :drawn :selected @choose="emit('choose', $event)" />
  </div>
</template>

<style scoped src="./map.css"></style>
<style scoped>
.runs {
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(220px, 1fr) auto;
}
.window {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 2;
}
.aim {
  fill: var(--verdigris);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
  font-size: var(--small);
  font-stretch: 85%;
}
.hit.hand {
  fill: var(--ink);
  fill-opacity: 0.05;
}
</style>
