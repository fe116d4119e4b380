<script setup lang="ts">
import type { channelsOf } from '@iron-hush/core/levels'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'

/** Which recorded channel marks are about. */
type Channel = ReturnType<typeof channelsOf>[number]
defineProps<{ channels: readonly Channel[]; current: Channel | undefined }>()
const channel = defineModel<string>({ required: true })
</script>

<template>
  <SegmentedChoice
    v-slot="{ option }"
    :model-value="current?.id"
    class="channels"
    :options="channels"
    label="Marks go to"
    @update:model-value="channel = $event ?? ''"
  >
    <span class="quiet">{{ option.boxName }} {{ option.track }}</span> <b>{{ option.sources.join(' + ') }}</b>
    <i v-if="option.id === current?.id">marks go here</i>
  </SegmentedChoice>
</template>

<style scoped>
.channels {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
}
.channels :deep(button) {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  text-align: left;
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  padding: 4px 9px;
  min-height: 44px;
  line-height: 1.2;
  cursor: pointer;
}
.channels .quiet {
  font-stretch: 80%;
  font-size: var(--small);
  grid-column: 1 / -1;
}
.channels b {
  font-stretch: 85%;
}
.channels i {
  font-style: normal;
  color: var(--verdigris);
  font-size: var(--small);
  font-stretch: 85%;
}
.channels :deep([aria-checked='true']) {
  border: 2px solid var(--brass);
}
</style>
