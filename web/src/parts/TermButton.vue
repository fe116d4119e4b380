<script setup lang="ts">
import { useView } from '../state/view'

/** A term on the screen; pressing it explains it. */
defineProps<{ term: string }>()
const view = useView()
</script>

<template>
  <button type="button" class="term" :title="`What ${term} means`" @click="view.explain(term)">
    <slot>{{ term }}</slot>
  </button>
</template>

<style scoped>
.term {
  border: 0;
  border-bottom: 1px dotted currentcolor;
  background: none;
  padding: 0;
  color: inherit;
  cursor: help;
  /* a word of its sentence, however large it is to a thumb */
  position: relative;
  min-height: 0;
  min-width: 0;
}
.term::after {
  content: '';
  position: absolute;
  inset: -12px -4px;
}
</style>
