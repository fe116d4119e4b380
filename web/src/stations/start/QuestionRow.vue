<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import type { Choice } from './planning'

/** One of the three questions: the likely answers to touch, the rest of the shelf in a list. */
const props = defineProps<{ title: string; note: string; choices: readonly Choice[]; most?: number }>()
const chosen = defineModel<string>({ required: true })
const shown = computed(() => {
  const first = props.choices.slice(0, props.most ?? props.choices.length)
  const also = props.choices.find(({ id }) => id === chosen.value)
  return also && !first.includes(also) ? [...first, also] : first
})
const rest = computed(() => props.choices.filter((each) => !shown.value.includes(each)))
</script>

<template>
  <section class="question">
    <div>
      <h2>{{ title }}</h2>
      <p class="quiet">{{ note }}</p>
    </div>
    <div class="answers">
      <SegmentedChoice v-slot="{ option }" v-model="chosen" class="options" :options="shown" :label="title">
        <b><span v-if="option.owned" class="tone-settled">&#10003;&nbsp;</span>{{ option.name }}</b>
        <span class="quiet">{{ option.note }}</span>
      </SegmentedChoice>
      <slot />
      <Select
        v-if="rest.length"
        :model-value="null"
        :options="rest"
        option-label="name"
        option-value="id"
        placeholder="find on the shelf"
        filter
        size="small"
        :aria-label="`${title} Find on the shelf`"
        @update:model-value="chosen = $event"
      />
    </div>
  </section>
</template>

<style scoped>
.question {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 0 14px;
  padding: 10px 0;
  border-top: 1px solid var(--ink);
}
.question .quiet {
  font-size: var(--small);
  font-stretch: 85%;
}
.answers,
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: stretch;
}
.options :deep(button) {
  display: grid;
  align-content: center;
  text-align: left;
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--sheet);
  padding: 5px 12px;
  min-height: 44px;
  line-height: 1.2;
  cursor: pointer;
}
.options :deep([aria-checked='true']) {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}
.options b {
  font-weight: 600;
}
@media (max-width: 700px) {
  .question {
    grid-template-columns: 1fr;
    gap: 8px;
  }
}
</style>
