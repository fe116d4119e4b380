<script setup lang="ts">
import type { Take } from '@iron-hush/core/model'
import { markName } from '@iron-hush/core/report'

/** A take as a line with its marks where they fell. */
defineProps<{ take: Take; lengthS: number }>()
/** Least length that a take is drawn with, s. */
const leastS = 10
</script>

<template>
  <div class="line" role="img" :aria-label="`Take ${take.number}, ${take.marks.length} marks`">
    <span
      v-for="each in take.marks"
      :key="each.id"
      class="tick"
      :style="{ left: `${Math.min(97, (100 * each.atS) / Math.max(leastS, lengthS))}%` }"
      >{{ markName(each.kind) }}</span
    >
  </div>
</template>

<style scoped>
.line {
  position: relative;
  height: 44px;
  border: 1px solid var(--rule);
  background: repeating-linear-gradient(90deg, transparent 0 9.9%, var(--rule) 9.9% 10%);
  overflow: hidden;
  flex: none;
}
.tick:nth-child(3n + 2) {
  padding-top: 15px !important;
}
.tick:nth-child(3n) {
  padding-top: 29px !important;
}
.tick {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 2px solid var(--brass);
  padding: 1px 4px;
  line-height: 13px;
  font-size: var(--small);
  font-stretch: 80%;
  color: var(--brass-ink);
  white-space: nowrap;
}
</style>
