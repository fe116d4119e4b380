<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { positionName } from '@iron-hush/core/model'
import type { PlacedBox } from './layout'

/** A box on the drawing: its name, what it is, its place, and its first settings. */
const props = defineProps<{ placed: PlacedBox; place?: string; needsYou: boolean; chosen: boolean }>()
const emit = defineEmits<{ needs: [heightPx: number] }>()
const card = useTemplateRef('card')
/** Padding above and below plus the border, px. */
const aroundPx = 18
useResizeObserver(card, ([entry]) => emit('needs', Math.ceil(entry!.contentRect.height) + aroundPx))
const settings = computed(() =>
  props.placed.gear.controls
    .filter(({ kind }) => kind !== 'switch')
    .slice(0, 2)
    .map(
      (control) =>
        // a figure stays with its unit
        `${control.name}: ${positionName(control, props.placed.box.settings[control.id] ?? control.initial).replaceAll(' ', '\u00A0')}`,
    )
    .join(', '),
)
</script>

<template>
  <button type="button" class="box" :class="{ hand: chosen, needs: needsYou }">
    <span ref="card" class="says">
      <b>{{ placed.box.name ?? placed.gear.name }}</b>
      <span v-if="placed.box.name && placed.box.name !== placed.gear.name">{{ placed.gear.name }}</span>
      <span v-if="place">{{ place }}</span>
      <span v-if="settings" class="set">{{ settings }}</span>
      <span v-if="needsYou" class="flag">&#9650; needs you</span>
    </span>
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
  align-items: flex-start;
  text-align: left;
  line-height: 1.2;
  cursor: pointer;
}
.says {
  display: flex;
  flex-direction: column;
  gap: 1px;
  min-width: 0;
  width: 100%;
  overflow-wrap: anywhere;
}
.box b {
  font-size: var(--body);
  font-stretch: 82%;
}
.says > span {
  font-size: var(--small);
  font-stretch: 82%;
  color: var(--quiet);
}
.says > .set {
  padding-top: 4px;
  color: var(--ink);
}
.says > .flag {
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
