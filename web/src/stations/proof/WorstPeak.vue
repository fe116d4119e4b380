<script setup lang="ts">
import { computed } from 'vue'
import type { ChannelMeasurement } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'

/** The samples around the highest peak, so that the shape of its top can be seen. */
const props = defineProps<{ channel: ChannelMeasurement }>()
const width = 300
const height = 150
const points = computed(() => {
  const samples = props.channel.worstPeak
  const size = Math.max(1e-9, ...samples.map(Math.abs)) * 1.15
  return samples.map(
    (sample, index) =>
      [
        (index / Math.max(1, samples.length - 1)) * width,
        height / 2 - (sample / size) * (height / 2),
      ] as const,
  )
})
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      role="img"
      :aria-label="`Shape of the highest peak, at ${clock(channel.peakAtS, 2)}`"
    >
      <line :x2="width" :y1="height / 2" :y2="height / 2" stroke="var(--rule)" />
      <polyline :points="points.map((point) => point.join(',')).join(' ')" fill="none" stroke="var(--ink)" />
      <circle
        v-for="(point, index) in points"
        :key="index"
        :cx="point[0]"
        :cy="point[1]"
        r="1.3"
        fill="var(--brass-ink)"
      />
    </svg>
    <figcaption>highest peak at <span class="figure">{{ clock(channel.peakAtS, 2) }}</span></figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  background: var(--sheet);
  border: 1px solid var(--rule);
}
figcaption {
  font-size: var(--small);
  font-stretch: 85%;
  color: var(--quiet);
}
</style>
