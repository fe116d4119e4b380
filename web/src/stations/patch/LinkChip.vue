<script setup lang="ts">
import type { DrawnLink } from './draw-links'

/** The pieces in a link, on its strands; pressing it opens the link. */
defineProps<{ drawn: DrawnLink; faulty: boolean; chosen: boolean }>()
</script>

<template>
  <button
    type="button"
    class="chip"
    :class="{ faulty, bare: !drawn.words, hand: chosen }"
    :style="{
      left: `${drawn.x}px`,
      top: `${drawn.strands[0] === 'radio' ? drawn.y + 34 : drawn.y}px`,
    }"
  >
    {{ drawn.strands[0] === 'radio' ? 'radio' : drawn.words || '+' }}
  </button>
</template>

<style scoped>
.chip {
  position: absolute;
  transform: translate(-50%, -50%);
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  font-size: var(--small);
  font-stretch: 80%;
  font-weight: 600;
  padding: 3px 6px;
  min-width: 24px;
  min-height: 24px;
  line-height: 1.15;
  cursor: pointer;
}
.chip.bare {
  border-color: var(--rule);
  color: var(--quiet);
}
.chip.faulty {
  background: var(--iron-solid);
  border-color: var(--iron-solid);
  color: var(--on-solid);
}
.chip.hand {
  background: var(--ink);
  color: var(--sheet);
}
</style>
