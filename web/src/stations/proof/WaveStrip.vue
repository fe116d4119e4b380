<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { ChannelMeasurement } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'

/** The wave of one channel from end to end, with every finding marked where it is. */
const props = defineProps<{ channel: ChannelMeasurement; lengthS: number; label: string }>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height: 92 })
const height = 92
const middle = height / 2
const half = 38
const outline = computed(() => {
  const { envelope } = props.channel
  const step = width.value / envelope.length
  const along = (pick: 0 | 1) =>
    envelope.map((pair, index) => `${(index * step).toFixed(1)} ${(middle - pair[pick] * half).toFixed(1)}`)
  return `M${along(1).join(' L')} L${along(0).reverse().join(' L')} Z`
})
const x = (seconds: number) => (seconds / props.lengthS) * width.value
</script>

<template>
  <div ref="frame" class="strip">
    <svg
      :width
      :height
      role="img"
      :aria-label="`${label}: wave over ${clock(lengthS, 1)}${channel.clipped.length ? `, cut in ${channel.clipped.length} place${channel.clipped.length === 1 ? '' : 's'}` : ''}`"
    >
      <line :x2="width" :y1="middle - half" :y2="middle - half" stroke="var(--iron)" stroke-dasharray="3 3" />
      <line :x2="width" :y1="middle + half" :y2="middle + half" stroke="var(--iron)" stroke-dasharray="3 3" />
      <path :d="outline" fill="var(--brass)" />
      <g v-for="range in channel.clipped" :key="range.fromS">
        <rect
          :x="x(range.fromS) - 1"
          y="2"
          :width="Math.max(3, x(range.toS) - x(range.fromS))"
          :height="height - 4"
          fill="none"
          stroke="var(--iron)"
          stroke-width="1.6"
        />
        <path :d="`M${x(range.fromS) - 5} 0 h12 l-6 7 z`" fill="var(--iron)" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.strip {
  height: 92px;
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--rule);
  overflow: hidden;
}
svg {
  position: absolute;
}
</style>
