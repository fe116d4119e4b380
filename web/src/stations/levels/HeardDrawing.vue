<script setup lang="ts">
import { computed } from 'vue'
import type { Rendered } from '../../workers/listening'

/** The sound that is heard: its wave, and its level in thirds of an octave. */
const props = defineProps<{ heard: Rendered['heard'] }>()
const loudest = computed(() => Math.max(...props.heard.bands.map(({ levelDbfs }) => levelDbfs)))
const bandRangeDb = 70
const bar = (levelDbfs: number) => Math.max(0, (levelDbfs - loudest.value + bandRangeDb) / bandRangeDb) * 46
/** Where a frequency lies among the thirds of an octave, which begin at 25 Hz. */
const xOf = (hz: number) => 10 + 200 * Math.log10(hz / 25)
const marks = [
  [100, '100 Hz'],
  [1000, '1 kHz'],
  [10_000, '10 kHz'],
] as const
const wave = computed(() => {
  const { envelope } = props.heard
  const most = Math.max(1e-9, ...envelope.map(([low, high]) => Math.max(-low, high)))
  const top = envelope.map(([, high], index) => `${index},${24 - (high / most) * 22}`)
  const bottom = envelope.map(([low], index) => `${index},${24 - (low / most) * 22}`).reverse()
  return [...top, ...bottom].join(' ')
})
</script>

<template>
  <div class="drawn">
    <svg viewBox="0 0 240 48" preserveAspectRatio="none" role="img" aria-label="The wave you hear">
      <polygon :points="wave" />
    </svg>
    <svg viewBox="0 0 600 48" role="img" aria-label="Its level in thirds of an octave, 25 Hz to 20 kHz">
      <rect
        v-for="(band, index) in heard.bands"
        :key="band.hz"
        :x="index * 20 + 2"
        :y="48 - bar(band.levelDbfs)"
        width="16"
        :height="bar(band.levelDbfs)"
      />
      <template v-for="[hz, words] in marks" :key="hz">
        <line :x1="xOf(hz)" :x2="xOf(hz)" y1="0" y2="48" />
        <text :x="xOf(hz) + 3" y="11">{{ words }}</text>
      </template>
    </svg>
  </div>
</template>

<style scoped>
.drawn {
  display: flex;
  gap: 10px;
}
svg {
  flex: 1;
  height: 48px;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
polygon {
  fill: var(--brass);
}
rect {
  fill: var(--slate);
}
line {
  stroke: var(--quiet);
  stroke-dasharray: 2 2;
}
text {
  font-size: var(--small);
  font-stretch: 85%;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
</style>
