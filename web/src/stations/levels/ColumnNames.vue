<script setup lang="ts">
import { computed } from 'vue'
import { boxGroups, type Column } from '@iron-hush/core/levels'
import { withUnits } from '@iron-hush/core/words'

/** The chain box by box: a bracket with the name of each, and under it the stages of those that are opened. */
const props = defineProps<{
  columns: readonly Column[]
  selected: number
  /** Boxes that have more than one stage, and whether they are opened. */
  opening: ReadonlyMap<string, boolean>
}>()
const emit = defineEmits<{ choose: [index: number]; open: [part: string] }>()
const groups = computed(() => boxGroups(props.columns))
const here = computed(() => props.columns[props.selected]?.part)
</script>

<template>
  <div>
    <div
      v-for="group in groups"
      :key="group.from"
      class="box"
      :class="{ here: group.part === here }"
      :style="{ gridColumn: `span ${group.count}` }"
    >
      <button
        type="button"
        class="name three-lines"
        :aria-pressed="selected >= group.from && selected < group.from + group.count"
        :title="group.partName"
        @click="emit('choose', group.from)"
      >
        {{ withUnits(group.partName) }}
      </button>
      <button
        v-if="opening.has(group.part)"
        type="button"
        class="open"
        :aria-expanded="opening.get(group.part)"
        :aria-label="`Stages of ${group.partName}`"
        @click="emit('open', group.part)"
      >
        {{ opening.get(group.part) ? '\u2212' : '+' }}
      </button>
    </div>
    <template v-for="(column, index) in columns" :key="index">
      <button
        v-if="column.name && column.name !== column.partName"
        type="button"
        class="stage"
        :class="{ hand: index === selected }"
        :aria-pressed="index === selected"
        :aria-label="`${column.name}, ${column.partName}`"
        @click="emit('choose', index)"
      >
        {{ column.name }}
      </button>
      <span v-else class="stage" :class="{ hand: index === selected }"></span>
    </template>
  </div>
</template>

<style scoped>
.box {
  display: flex;
  justify-content: center;
  align-items: baseline;
  gap: 2px;
  margin: 3px 5px 0;
  min-width: 0;
  /* the bracket is above the name: a rule with its two ends up */
  background: linear-gradient(var(--quiet) 0 0) left 7px / 100% 1px no-repeat;
  border: 1px solid;
  border-bottom: 0;
  border-top: 0;
  border-image: linear-gradient(var(--quiet) 0 7px, transparent 7px) 1;
  padding-top: 11px;
}
.here {
  background: linear-gradient(var(--ink) 0 0) left 6px / 100% 2px no-repeat;
  border-image: linear-gradient(var(--ink) 0 7px, transparent 7px) 1;
}
button {
  border: 0;
  background: none;
  cursor: pointer;
  font-stretch: 80%;
  line-height: 1.15;
}
.name {
  font-size: var(--body);
  font-weight: 600;
  padding: 2px 0;
  min-width: 0;
}
.here .name {
  font-weight: 750;
}
.open {
  font: 600 var(--body) var(--figures);
  padding: 2px 6px;
}
.stage {
  font-size: var(--small);
  color: var(--quiet);
  padding: 0 2px 3px;
  align-self: start;
  min-height: 16px;
}
.stage.hand {
  color: var(--ink);
  font-weight: 650;
}
</style>
