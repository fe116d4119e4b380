<script setup lang="ts">
import { computed } from 'vue'
import { positionName } from '@iron-hush/core/model'
import type { PlacedBox } from './layout'

/** A box on the drawing: its name, what it is, where it stands, and its first settings. */
const props = defineProps<{ placed: PlacedBox; place?: string; needsYou: boolean; chosen: boolean }>()
const settings = computed(() =>
  props.placed.gear.controls
    .filter(({ kind }) => kind !== 'switch')
    .slice(0, 2)
    .map(
      (control) =>
        // a figure stays with its unit
        `${control.name} ${positionName(control, props.placed.box.settings[control.id] ?? control.initial).replaceAll(' ', '\u00A0')}`,
    )
    .join(', '),
)
</script>

<template>
  <button type="button" class="box" :class="{ hand: chosen, needs: needsYou }">
    <b>{{ placed.box.name ?? placed.gear.name }}</b>
    <span>{{ placed.gear.name }}</span>
    <span v-if="place">{{ place }}</span>
    <span class="set">{{ settings }}</span>
    <span v-if="needsYou" class="flag">&#9650; needs you</span>
  </button>
</template>

<style scoped>
.box {
  position: absolute;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  padding: 8px 10px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  text-align: left;
  line-height: 1.2;
  cursor: pointer;
  overflow: hidden;
}
.box b {
  font-size: var(--body);
  font-stretch: 82%;
}
.box span {
  font-size: var(--small);
  font-stretch: 82%;
  color: var(--quiet);
}
.box .set {
  margin-top: auto;
  /* clear of the + at the corners */
  padding: 0 8px;
  color: var(--ink);
}
.box .flag {
  color: var(--iron);
  font-weight: 650;
}
.box.hand {
  outline: 2px solid var(--brass);
}
.box.needs {
  border-color: var(--iron);
  border-width: 2px;
}
</style>
