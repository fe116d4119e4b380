<script setup lang="ts">
import { useView } from '../state/view'

/** A term where it stands on the screen; pressing it explains it. */
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
}
</style>
