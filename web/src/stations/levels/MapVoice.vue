<script setup lang="ts">
import { computed } from 'vue'
import { type DrawnColumn, marginFor } from './map-geometry'

type Edge = 'above' | 'peak' | 'typical' | 'quietest'

/** The source as a band from its quietest to its loudest: straight across, or column by column in volts. */
const props = defineProps<{
  width: number
  height: number
  step: number
  steady: boolean
  band: Record<Edge, { y: number; db: number }>
  drawn: DrawnColumn[]
}>()
const margin = computed(() => marginFor(props.width))
</script>

<template>
  <g>
    <template v-if="steady">
      <rect
        class="soft"
        :x="margin.left"
        :width="Math.max(0, width - margin.left - margin.right)"
        :y="band.above.y"
        :height="Math.max(0, band.peak.y - band.above.y)"
        fill="url(#soft-edge)"
      />
      <rect
        :x="margin.left"
        :width="Math.max(0, width - margin.left - margin.right)"
        :y="band.peak.y"
        :height="Math.max(0, band.quietest.y - band.peak.y)"
        fill="var(--brass-wash)"
      />
      <line
        v-for="edge in ['peak', 'quietest'] as const"
        :key="edge"
        :x1="margin.left"
        :x2="width - margin.right"
        :y1="band[edge].y"
        :y2="band[edge].y"
        stroke="var(--brass)"
        stroke-width="1.6"
      />
      <line
        :x1="margin.left"
        :x2="width - margin.right"
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
  </g>
</template>

<style scoped src="./map.css"></style>
