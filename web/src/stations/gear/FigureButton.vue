<script setup lang="ts">
import { computed } from 'vue'
import type { GearFigure } from '@iron-hush/core/model'
import { shownFigure } from './figures'

/** A figure in the sheet, to be edited. */
const props = defineProps<{ figure: GearFigure; selected: boolean; before?: string }>()
const emit = defineEmits<{ take: [] }>()
const shown = computed(() => shownFigure(props.figure))
</script>

<template>
  <button type="button" class="fact" :aria-pressed="selected" @click="emit('take')">
    {{ before }} {{ shown.name }} <span class="figure">{{ shown.value }}</span>
    <i v-if="shown.from" :class="shown.from">{{ shown.from }}</i>
  </button>
</template>

<style scoped>
.fact {
  border: 0;
  background: none;
  padding: 1px 3px;
  margin-left: -3px;
  text-align: left;
  cursor: pointer;
  font-size: var(--small);
  border-radius: 2px;
}
.fact:hover,
.fact[aria-pressed='true'] {
  outline: 1px solid var(--ink);
}
.figure {
  margin: 0 4px 0 2px;
}
i {
  font-style: normal;
  font-size: var(--small);
  font-stretch: 85%;
  color: var(--quiet);
}
i.measured {
  color: var(--verdigris);
  font-weight: 650;
}
</style>
