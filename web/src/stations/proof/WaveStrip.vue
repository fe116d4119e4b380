<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { ChannelMeasurement } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'

/** The wave of one channel from end to end over its time, with every finding marked where it is. */
const {
  channel,
  lengthS,
  label,
  height = 92,
} = defineProps<{ channel: ChannelMeasurement; lengthS: number; label: string; height?: number }>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height })
/** Room for the marks above the wave and for the clock below it. */
const [above, below] = [9, 17]
const half = computed(() => (height - above - below) / 2)
const middle = computed(() => above + half.value)
const outline = computed(() => {
  const { envelope } = channel
  const step = width.value / envelope.length
  const along = (pick: 0 | 1) =>
    envelope.map(
      (pair, index) => `${(index * step).toFixed(1)} ${(middle.value - pair[pick] * half.value).toFixed(1)}`,
    )
  return `M${along(1).join(' L')} L${along(0).reverse().join(' L')} Z`
})
const x = (seconds: number) => (seconds / lengthS) * width.value
/** Moments that are written under the wave, as far apart as their words need. */
const ticks = computed(() => {
  const leastS = (lengthS * 70) / Math.max(1, width.value)
  const stepS = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800].find((each) => each >= leastS) ?? 3600
  return Array.from({ length: Math.ceil(lengthS / stepS) }, (_, index) => index * stepS)
})
</script>

<template>
  <div ref="frame" class="strip" :style="{ height: `${height}px` }">
    <svg
      :width
      :height
      role="img"
      :aria-label="`${label}: wave over ${clock(lengthS, 1)}${channel.clipped.length ? `, cut in ${channel.clipped.length} place${channel.clipped.length === 1 ? '' : 's'}` : ''}`"
    >
      <line
        v-for="side in [-1, 1]"
        :key="side"
        :x2="width"
        :y1="middle + side * half"
        :y2="middle + side * half"
        stroke="var(--iron)"
        stroke-dasharray="3 3"
      />
      <path :d="outline" fill="var(--brass)" />
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
      <text v-for="tick in ticks" :key="tick" class="figure" :x="x(tick) + 2" :y="height - 4">
        {{ clock(tick) }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--rule);
  overflow: hidden;
}
svg {
  position: absolute;
}
text {
  fill: var(--quiet);
}
</style>
