<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import { cameraDistanceM, criticalDistanceM, framedHeightM } from '@iron-hush/core/acoustics'
import type { Brief } from '@iron-hush/core/model'
import { shortName } from '@iron-hush/core/words'
import { distance } from '../../state/lengths'
import PlanHandles from './PlanHandles.vue'

/**
 * The scene from above, to scale: mouth, camera and its field, microphone places, the reach of direct sound. Places are
 * dragged nearer and farther.
 */
const props = defineProps<{ brief: Brief; source: string; imperial: boolean }>()
const emit = defineEmits<{ move: [place: string, distanceM: number] }>()
const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame, { width: 560, height: 300 })

const cameraM = computed(() =>
  cameraDistanceM(props.brief.picture.framing, props.brief.picture.focalLengthMm, props.brief.picture.sensor),
)
const places = computed(() =>
  props.brief.places.flatMap((place) =>
    place.hears
      .filter((each) => each.source === props.source)
      .map((each) => ({
        id: place.id,
        name: place.name,
        distanceM: each.distanceM,
        angleDeg: each.angleDeg,
      })),
  ),
)
/** What the plan reaches while a place is dragged: its scale stays. */
const heldReachM = ref<number>()
const reachM = computed(
  () => heldReachM.value ?? Math.max(cameraM.value, ...places.value.map(({ distanceM }) => distanceM)) + 0.25,
)
const mouth = computed(() => ({ x: 70, y: height.value / 2 }))
const scale = computed(() => (width.value - 170) / reachM.value)
const camera = computed(() => ({ x: mouth.value.x + cameraM.value * scale.value, y: mouth.value.y }))
const field = computed(() => (framedHeightM[props.brief.picture.framing] * (16 / 9) * scale.value) / 2)
const critical = computed(() =>
  props.brief.room.outdoors ? undefined : criticalDistanceM(props.brief.room) * scale.value,
)
/** Places fan out above and below the axis so that near ones do not lie on each other. */
const marks = computed(() =>
  places.value.map((place, index) => {
    const turn = ((index % 2 ? 1 : -1) * (24 + 16 * Math.floor(index / 2)) * Math.PI) / 180
    const radius = place.distanceM * scale.value
    const x = mouth.value.x + radius * Math.cos(turn)
    return {
      ...place,
      x,
      isRight: x > width.value - longestLabel,
      y: mouth.value.y + radius * Math.sin(turn),
      radius,
      up: index % 2 === 0,
    }
  }),
)
/** Where it is said what the circle means: beside it above, or below where a place has its name above. */
const insideY = computed(() => {
  const fromMouth = 0.71 * (critical.value ?? 0)
  const above = Math.max(30 + props.brief.noises.length * 22, mouth.value.y - fromMouth)
  const below = Math.min(height.value - 30, mouth.value.y + fromMouth)
  const room = (y: number) => Math.min(Infinity, ...marks.value.map((mark) => Math.abs(mark.y - y)))
  return room(above) < 30 && room(below) > room(above) ? below : above
})
/** Longest label, px. */
const longestLabel = 170
const barM = computed(
  () => [0.1, 0.25, 0.5, 1, 2, 5, 10, 25].find((metres) => metres * scale.value > 60) ?? 50,
)
/** Noises that come from one side at some place. */
const oneSided = computed(
  () => new Set(props.brief.places.flatMap(({ noises }) => (noises ?? []).map(({ noise }) => noise))),
)
</script>

<template>
  <div ref="frame" class="plan">
    <svg
      :width
      :height
      role="img"
      :aria-label="`Plan to scale: camera ${distance(cameraM, imperial)} from the mouth; ${marks.map(({ name, distanceM }) => `${name} ${distance(distanceM, imperial)}`).join('; ')}`"
    >
      <defs>
        <clipPath id="plan-area"><rect :width :height /></clipPath>
      </defs>
      <g clip-path="url(#plan-area)">
        <circle
          v-if="critical"
          :cx="mouth.x"
          :cy="mouth.y"
          :r="critical"
          fill="var(--brass-wash)"
          stroke="var(--brass)"
          stroke-dasharray="3 3"
        />
        <path
          :d="`M${camera.x} ${camera.y} L${mouth.x} ${mouth.y - field} V${mouth.y + field} Z`"
          fill="none"
          stroke="var(--rule)"
          stroke-width="1.2"
        />
        <line
          :x1="mouth.x"
          :y1="mouth.y"
          :x2="camera.x"
          :y2="camera.y"
          stroke="var(--quiet)"
          stroke-dasharray="2 4"
        />
      </g>
      <text
        v-if="critical"
        class="small"
        :x="Math.min(mouth.x + critical * 0.71 + 6, width - 220)"
        :y="insideY"
      >
        inside: more direct sound than echo
      </text>
      <circle
        :cx="mouth.x - 16"
        :cy="mouth.y"
        r="14"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="1.8"
      />
      <path
        :d="`M${mouth.x - 4} ${mouth.y - 5} L${mouth.x + 3} ${mouth.y} L${mouth.x - 4} ${mouth.y + 5}`"
        fill="var(--sheet)"
        stroke="var(--ink)"
        stroke-width="1.8"
      />
      <text class="name" :x="mouth.x - 44" :y="mouth.y + 34">
        {{ shortName(brief.sources.find(({ id }) => id === source)?.name ?? '', 14) }}
      </text>
      <g v-for="mark in marks" :key="mark.id">
        <line :x1="mouth.x" :y1="mouth.y" :x2="mark.x" :y2="mark.y" stroke="var(--verdigris)" />
        <rect
          :x="mark.x - 5"
          :y="mark.y - 5"
          width="10"
          height="10"
          fill="var(--sheet)"
          stroke="var(--verdigris)"
          stroke-width="2"
          :transform="`rotate(45 ${mark.x} ${mark.y})`"
        />
        <text
          class="name"
          :x="mark.x + (mark.isRight ? 8 : 10)"
          :y="mark.y + (mark.up ? -10 : 20)"
          :text-anchor="mark.isRight ? 'end' : 'start'"
        >
          {{ shortName(mark.name) }}
          <tspan class="figure">{{ distance(mark.distanceM, imperial) }}</tspan>
        </text>
      </g>
      <g>
        <rect
          :x="camera.x"
          :y="camera.y - 11"
          width="26"
          height="22"
          fill="var(--sheet)"
          stroke="var(--ink)"
          stroke-width="1.6"
        />
        <rect :x="camera.x - 7" :y="camera.y - 6" width="7" height="12" fill="var(--ink)" />
        <text class="name" :x="Math.min(camera.x - 8, width - 92)" :y="camera.y + 28">
          camera
          <tspan class="figure">{{ distance(cameraM, imperial) }}</tspan>
        </text>
      </g>
      <g v-for="(noise, index) in brief.noises" :key="noise.id">
        <path
          v-for="wave in 3"
          :key="wave"
          :d="`M${width - 12 - wave * 6} ${16 + index * 22} q-5 7 0 14`"
          fill="none"
          stroke="var(--slate)"
          stroke-width="1.6"
        />
        <text class="small" text-anchor="end" :x="width - 38" :y="27 + index * 22">
          {{ shortName(noise.name, 36) }}, {{ noise.levelDba }} dB(A){{
            oneSided.has(noise.id) ? '' : ', from all around'
          }}{{ noise.inPicture ? '; the drawing explains it' : '' }}
        </text>
      </g>
      <g :transform="`translate(16 ${height - 14})`">
        <path :d="`M0 -4 V4 M0 0 H${barM * scale} M${barM * scale} -4 V4`" stroke="var(--ink)" fill="none" />
        <text class="small" :x="barM * scale + 8" y="4">{{ distance(barM, imperial) }}</text>
      </g>
    </svg>
    <PlanHandles
      :handles="marks"
      :mouth
      :scale
      :imperial
      @grab="heldReachM = reachM"
      @release="heldReachM = undefined"
      @move="(place, distanceM) => emit('move', place, distanceM)"
    />
  </div>
</template>

<style scoped>
.plan {
  position: relative;
  min-height: 260px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 2px;
  overflow: hidden;
}
svg {
  position: absolute;
  inset: 0;
}
text {
  fill: var(--ink);
  font-size: var(--small);
  font-stretch: 85%;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 4px;
}
.small {
  font-size: var(--small);
  fill: var(--quiet);
}
</style>
