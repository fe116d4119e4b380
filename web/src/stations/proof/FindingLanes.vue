<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import type { TimeRange } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import type { ShownFinding } from '@iron-hush/core/report'

/** Under the wave, a lane for everything that was found in places: by its word, each place a bar to press. */
const { findings, marks, fromS, toS } = defineProps<{
  findings: readonly ShownFinding[]
  /** Marks from Roll. */
  marks: readonly { atS: number; words: string }[]
  fromS: number
  toS: number
}>()
const emit = defineEmits<{ show: [range: TimeRange, finding: ShownFinding] }>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame, { width: 900, height: 20 })
const lanes = computed(() => findings.filter(({ inPlaces }) => inPlaces))
const x = (seconds: number) => ((seconds - fromS) / (toS - fromS)) * width.value
const seen = computed(() => marks.filter(({ atS }) => atS >= fromS && atS <= toS))
const inSight = (ranges: readonly TimeRange[]) =>
  ranges.filter((range) => range.toS > fromS && range.fromS < toS)
</script>

<template>
  <div ref="frame" class="lanes">
    <div v-for="finding in lanes" :key="finding.key" class="lane">
      <button
        v-for="range in inSight(finding.ranges)"
        :key="range.fromS"
        type="button"
        :class="finding.severity"
        :style="{
          left: `${Math.max(0, x(range.fromS))}px`,
          width: `${Math.max(5, Math.min(width, x(range.toS)) - Math.max(0, x(range.fromS)))}px`,
        }"
        :title="`${finding.word} at ${clock(range.fromS, 1)}`"
        :aria-label="`${finding.word} at ${clock(range.fromS, 1)}`"
        tabindex="-1"
        @click="emit('show', range, finding)"
      ></button>
      <span>{{ finding.word }}{{ finding.about ? `, ${finding.about.toLowerCase()}` : '' }}</span>
    </div>
    <div v-if="seen.length" class="lane" role="list" aria-label="Marked on Roll">
      <i
        v-for="mark in seen"
        :key="mark.atS"
        role="listitem"
        :style="{ left: `${x(mark.atS)}px` }"
        :title="`${mark.words} at ${clock(mark.atS, 1)}`"
        >{{ mark.words }}</i
      >
      <span>marked on Roll</span>
    </div>
  </div>
</template>

<style scoped>
.lanes {
  display: grid;
  gap: 2px;
}
.lane i {
  position: absolute;
  border-left: 2px solid var(--brass);
  padding-left: 3px;
  font-style: normal;
  font-size: var(--small);
  font-stretch: 85%;
  line-height: 12px;
  white-space: nowrap;
}
.lane {
  position: relative;
  height: 30px;
}
button {
  position: absolute;
  top: 2px;
  height: 12px;
  min-height: 0;
  min-width: 0;
  padding: 0;
  cursor: pointer;
  border: 1px solid var(--slate);
  background: repeating-linear-gradient(45deg, var(--slate) 0 1px, transparent 1px 4px);
}
button.harmful {
  border-color: var(--iron);
  background: repeating-linear-gradient(45deg, var(--iron) 0 1.5px, transparent 1.5px 4px);
}
span {
  position: absolute;
  left: 0;
  top: 14px;
  line-height: 15px;
  font-size: var(--small);
  font-stretch: 90%;
  color: var(--quiet);
}
</style>
