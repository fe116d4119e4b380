<script setup lang="ts">
import { nextTick, useTemplateRef } from 'vue'
import type { Run } from '@iron-hush/core/levels'
import type { useBalancing } from './balancing'
import BoxCards from './BoxCards.vue'
import type { useChainColumns } from './chain-columns'
import ColumnNames from './ColumnNames.vue'
import ControlCell from './ControlCell.vue'

/** What is under the level map: names and controls of its columns, or cards where the screen is small. */
const { chain, run, balancing } = defineProps<{
  run: Run
  chain: ReturnType<typeof useChainColumns>
  balancing: ReturnType<typeof useBalancing>
}>()
const emit = defineEmits<{ under: [index: number | undefined] }>()
const { columns, sets, captioned, selected, inHand, opening, open, narrow } = chain
const controlRow = useTemplateRef('controlRow')

/** Gives the focus to the first control of the selected column. */
async function focusSelected(): Promise<void> {
  await nextTick()
  controlRow.value
    ?.querySelectorAll('.cell')
    [selected.value]?.querySelector<HTMLElement>('[tabindex="0"]')
    ?.focus()
}
defineExpose({ focusSelected })
</script>

<template>
  <div v-if="narrow">
    <ol class="row numbers">
      <li v-for="(column, index) in columns" :key="index">
        <button
          type="button"
          :aria-label="column.name ? `${column.name}, ${column.partName}` : column.partName"
          :aria-pressed="index === selected"
          @click="selected = index"
        >
          {{ index + 1 }}
        </button>
      </li>
    </ol>
    <BoxCards :run :columns :sets :selected :balancing @choose="selected = $event" />
  </div>
  <div v-else>
    <ColumnNames :columns :selected :opening class="row" @choose="selected = $event" @open="open" />
    <div ref="controlRow" class="row controls">
      <ControlCell
        v-for="(set, index) in sets"
        :key="index"
        :controls="set"
        :captioned="captioned[index] ?? []"
        :part-name="columns[index]?.partName ?? ''"
        :balancing
        :class="{ hand: index === selected && set.length > 0, whole: columns[index]?.name === '' }"
        @focusin="selected = index"
        @take="inHand = $event"
        @pointerenter="emit('under', index)"
        @pointerleave="emit('under', undefined)"
      />
    </div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  padding: 0 18px 0 64px;
}
.controls {
  /* room for what Balance proposes, so that nothing moves when it does */
  min-height: 118px;
}
.cell.hand {
  background: var(--sheet);
}
.numbers {
  list-style: none;
  margin: 0;
}
.numbers button {
  width: 100%;
  min-height: 44px;
  border: 0;
  background: none;
  font-weight: 600;
}
.numbers [aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
@media (max-width: 700px) {
  .row {
    padding: 0 8px 0 40px;
  }
}
</style>
