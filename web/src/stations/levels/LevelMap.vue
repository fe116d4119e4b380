<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { signed, withMinus } from '@iron-hush/core/units'
import { gap, isSmall, type MapProps, useMapGeometry } from './map-geometry'
import MapColumn from './MapColumn.vue'
import MapHatches from './MapHatches.vue'
import MapLabels from './MapLabels.vue'
import MapVoice from './MapVoice.vue'

/** The chain of one run as columns: ceilings hang from above, floors stand below, the voice lies across. */
const props = defineProps<MapProps>()
const emit = defineEmits<{ choose: [index: number] }>()

const frame = useTemplateRef('frame')
const { width, height } = useElementSize(frame, { width: 1200, height: 400 })
const { domain, margin, y, step, steady, drawn, band, ambient, narrowest, noisiest } = useMapGeometry(props, {
  width,
  height,
})
const summary = computed(
  () =>
    `Level map of ${props.run.entry.name} to ${props.run.end.boxName}. ` +
    props.columns
      .map(
        ({ partName, name, noiseAtSourceDb, ceiling }) =>
          `${[partName, name].filter(Boolean).join(', ')}: ${Number.isFinite(noiseAtSourceDb) ? `floor ${signed(noiseAtSourceDb)}` : 'no floor yet'}${ceiling ? `, ceiling ${signed(ceiling.atSourceDb)}, headroom ${signed(ceiling.headroomDb)}` : ''}`,
      )
      .join('; '),
)
</script>

<template>
  <div ref="frame" class="map">
    <svg :width :height role="img" :aria-label="summary">
      <MapHatches />

      <g v-for="line in domain.lines" :key="line">
        <line :x1="margin.left" :x2="width - margin.right" :y1="y(line)" :y2="y(line)" stroke="var(--rule)" />
        <text class="figure axis" :x="margin.left - 8" :y="y(line) + 4">
          {{ withMinus(line) }}
        </text>
      </g>
      <text v-if="!isSmall(width)" class="axis-title" :transform="`translate(14 ${height / 2}) rotate(-90)`">
        {{ domain.title }}
      </text>

      <!-- what the microphone hears beside it, behind everything -->
      <rect
        v-if="ambient?.together !== undefined"
        class="ambience"
        :x="margin.left"
        :width="Math.max(0, width - margin.left - margin.right)"
        :y="ambient.together"
        :height="Math.max(0, height - margin.bottom - ambient.together)"
        fill="url(#hatch-place)"
      />

      <MapVoice :width :height :step :steady :band :drawn />

      <g v-for="each in drawn" :key="each.index">
        <template v-if="each.reading">
          <MapColumn
            :x="each.x + gap"
            :width="Math.max(0, step - 2 * gap)"
            :top="margin.top"
            :bottom="height - margin.bottom"
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
              :y="margin.top"
              :height="height - margin.top - margin.bottom"
              fill="none"
              stroke="var(--ink)"
              stroke-dasharray="1 3"
            />
            <text class="figure" :x="each.x + step / 2" :y="each.floor - 5">
              {{ signed(each.column.noiseAtSourceDb + each.shift) }}
            </text>
            <text v-if="each.column.ceiling" class="figure" :x="each.x + step / 2" :y="each.ceiling! + 14">
              {{ signed(each.column.ceiling.atSourceDb + each.shift) }}
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
          :y="margin.top - 4"
          :width="Math.max(0, step - 2)"
          :height="height - margin.top"
          @click="emit('choose', each.index)"
        />
      </g>

      <MapLabels
        :run
        :width
        :height
        :place-words
        :moment-words
        :geometry="{ step, steady, band, drawn, ambient, narrowest, noisiest }"
      />
    </svg>
  </div>
</template>

<style scoped src="./map.css"></style>
<style scoped>
.pin text {
  text-anchor: middle;
  font-size: var(--small);
}
.hand {
  fill: var(--ink);
  fill-opacity: 0.05;
}
</style>
