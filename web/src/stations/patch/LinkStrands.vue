<script setup lang="ts">
import type { DrawnLink } from './draw-links'

/** A link as its strands, one for each contact; a radio as waves. */
defineProps<{ drawn: DrawnLink; chosen: boolean }>()
const offset = (index: number, count: number) => (index - (count - 1) / 2) * 6
</script>

<template>
  <g :class="{ hand: chosen }">
    <template v-if="drawn.strands[0] === 'radio'">
      <path
        v-for="wave in 5"
        :key="wave"
        class="strand signal"
        :d="`M${drawn.x - 24 + wave * 8} ${drawn.y - 14} q7 14 0 28`"
      />
    </template>
    <template v-for="(strand, index) in drawn.strands" v-else :key="index">
      <path class="hop" :d="drawn.path(offset(index, drawn.strands.length))" />
      <path class="strand" :class="strand" :d="drawn.path(offset(index, drawn.strands.length))" />
    </template>
  </g>
</template>

<style scoped>
.strand {
  fill: none;
  stroke-width: 2.2;
  stroke: var(--ink);
}
.hop {
  fill: none;
  stroke: var(--paper);
  stroke-width: 5.5;
}
.signal {
  stroke: var(--brass);
}
.return {
  stroke: var(--brass);
  stroke-dasharray: 5 3;
}
.supply {
  stroke: var(--verdigris);
}
.nothing {
  stroke: var(--rule);
  stroke-dasharray: 2 4;
}
.hand .strand {
  stroke-width: 3.2;
}
</style>
