<script setup lang="ts">
import type { MarkKind } from '@iron-hush/core/model'
import { marks } from './marks'

/** One button for each thing that can spoil a moment. */
const emit = defineEmits<{ mark: [kind: MarkKind] }>()
</script>

<template>
  <div class="marks">
    <button v-for="(each, index) in marks" :key="each.kind" type="button" @click="emit('mark', each.kind)">
      <b>{{ each.name }}</b>
      <span>{{ each.hint }}</span>
      <kbd class="figure" aria-hidden="true">{{ index + 1 }}</kbd>
    </button>
  </div>
</template>

<style scoped>
.marks {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  flex: 1;
  min-height: 260px;
}
.marks button {
  position: relative;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--sheet);
  text-align: left;
  padding: 12px 14px;
  display: flex;
  flex-direction: column;
  justify-content: center;
  cursor: pointer;
  touch-action: manipulation;
}
.marks button:active {
  background: var(--brass-wash);
}
.marks b {
  font-size: var(--title);
  font-stretch: 88%;
}
.marks span {
  color: var(--quiet);
  font-size: var(--small);
  font-stretch: 85%;
}
.marks kbd {
  position: absolute;
  right: 10px;
  top: 8px;
  color: var(--quiet);
}
@media (hover: none) {
  .marks kbd {
    display: none;
  }
}
</style>
