<script setup lang="ts">
import type { Column } from '@iron-hush/core/levels'

/** The columns of a run by name; the selected one is marked. */
defineProps<{ columns: readonly Column[]; selected: number }>()
const emit = defineEmits<{ choose: [index: number] }>()
</script>

<template>
  <div>
    <button
      v-for="(column, index) in columns"
      :key="index"
      type="button"
      class="name"
      :class="{ hand: index === selected }"
      :aria-pressed="index === selected"
      @click="emit('choose', index)"
    >
      <b>{{ column.name }}</b>
      <span>{{ column.partName }}</span>
    </button>
  </div>
</template>

<style scoped>
.name {
  border: 0;
  background: none;
  padding: 4px 2px 3px;
  display: grid;
  align-content: start;
  text-align: center;
  line-height: 1.15;
  cursor: pointer;
  border-top: 2px solid transparent;
}
.name b {
  font-size: var(--body);
  font-stretch: 80%;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.name span {
  font-size: var(--small);
  font-stretch: 80%;
  color: var(--quiet);
}
.name.hand {
  border-top-color: var(--ink);
}
.name.hand b {
  font-weight: 750;
}
</style>
