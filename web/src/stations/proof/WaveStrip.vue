<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { ChannelMeasurement, TimeRange } from '@iron-hush/core/model'
import { clock, signed } from '@iron-hush/core/units'
import { outlineOf, ticksOf } from './wave-geometry'

/** The wave of one channel over the part that is in sight, with what is cut marked where it is. */
const {
  channel,
  fromS = 0,
  toS,
  label,
  height = 92,
  finer,
} = defineProps<{
  channel: ChannelMeasurement
  fromS?: number
  toS: number
  label: string
  height?: number
  /** The same part, read again more finely. */
  finer?: { fromS: number; toS: number; envelope: readonly [number, number][] }
  lengthS: number
  selected?: TimeRange
}>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height })
/** Room for the marks above the wave and for the clock below it. */
const [above, below] = [9, 17]
const half = computed(() => (height - above - below) / 2)
const middle = computed(() => above + half.value)
const spanS = computed(() => toS - fromS)
/** Ceilings above this are shown by the edge of the wave already, dBFS. */
const belowFullScaleDbfs = -0.3
/** Where peaks end that are cut below full scale, and how high that is drawn. */
const ceiling = computed(() => {
  const { clipped, ceilingDbfs } = channel
  if (!clipped.length || ceilingDbfs === null || ceilingDbfs > belowFullScaleDbfs) return undefined
  return { dbfs: ceilingDbfs, y: half.value * 10 ** (ceilingDbfs / 20) }
})
const x = (seconds: number) => ((seconds - fromS) / spanS.value) * width.value
</script>

<template>
  <div ref="frame" class="strip" :style="{ height: `${height}px` }">
    <svg
      :width
      :height
      role="img"
      :aria-label="`${label}: wave from ${clock(fromS, 1)} to ${clock(toS, 1)}${channel.clipped.length ? `, cut in ${channel.clipped.length} place${channel.clipped.length === 1 ? '' : 's'}` : ''}`"
    >
      <rect
        v-if="selected"
        class="selected"
        :x="x(selected.fromS) - 2"
        y="0"
        :width="Math.max(4, x(selected.toS) - x(selected.fromS) + 4)"
        :height="height - below"
      />
      <line
        v-for="side in [-1, 1]"
        :key="side"
        :x2="width"
        :y1="middle + side * half"
        :y2="middle + side * half"
        stroke="var(--iron)"
        stroke-dasharray="3 3"
      />
      <path
        :d="
          outlineOf(
            finer?.envelope ?? channel.envelope,
            finer ?? { fromS: 0, toS: lengthS },
            x,
            (sample) => middle - sample * half,
          )
        "
        fill="var(--brass)"
        stroke="var(--brass)"
        stroke-width="0.8"
      />
      <template v-if="ceiling">
        <line
          v-for="side in [-1, 1]"
          :key="`ceiling ${side}`"
          :x2="width"
          :y1="middle + side * ceiling.y"
          :y2="middle + side * ceiling.y"
          stroke="var(--iron)"
        />
      </template>
      <g v-for="range in channel.clipped" :key="range.fromS">
        <rect
          :x="x(range.fromS) - 1"
          :y="above - 2"
          :width="Math.max(3, x(range.toS) - x(range.fromS))"
          :height="2 * half + 4"
          fill="none"
          stroke="var(--iron)"
          stroke-width="1.6"
        />
        <path :d="`M${x(range.fromS) - 5} 0 h12 l-6 7 z`" fill="var(--iron)" />
      </g>
      <text v-if="ceiling" class="ceiling" :x="width - 4" :y="middle - ceiling.y - 3">
        peaks end here, {{ signed(ceiling.dbfs) }} dBFS
      </text>
      <text
        v-for="tick in ticksOf(fromS, toS, width)"
        :key="tick"
        class="figure"
        :x="x(tick) + 2"
        :y="height - 4"
      >
        {{ clock(tick, spanS < 0.5 ? 3 : spanS < 8 ? 1 : 0) }}
      </text>
    </svg>
  </div>
</template>

<style scoped src="./strip.css"></style>
<style scoped>
.ceiling {
  fill: var(--iron);
  text-anchor: end;
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
.selected {
  fill: var(--iron);
  opacity: 0.1;
}
</style>
