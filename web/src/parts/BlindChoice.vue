<script setup lang="ts">
import Button from 'primevue/button'
import { chanceOfPreference } from '@iron-hush/core/measure'
import { computed } from 'vue'

/** Preferring one of two sounds without knowing which is which, and how far the tally can be trusted. */
const { names, tally } = defineProps<{ names: readonly [string, string]; tally: readonly [number, number] }>()
const emit = defineEmits<{ prefer: [] }>()
const blind = defineModel<boolean>({ required: true })

/** Fewest answers before a result is shown: a few prove nothing. */
const fewest = 5
const result = computed(() => {
  const heard = tally[0] + tally[1]
  if (heard < fewest) return `${heard} heard; the result appears after five`
  const chance = chanceOfPreference(...tally)
  const odds =
    chance > 0.2
      ? 'that is no better than chance'
      : `chance alone would give that in ${Math.max(1, Math.round(100 * chance))} of 100 tests`
  return `${heard} heard: ${tally[0]} for ${names[0]}, ${tally[1]} for ${names[1]}; ${odds}`
})
</script>

<template>
  <label class="check"><input v-model="blind" type="checkbox" /> blind</label>
  <template v-if="blind">
    <Button label="I prefer this one" severity="secondary" size="small" @click="emit('prefer')" />
    <span class="quiet">{{ result }}</span>
  </template>
</template>

<style scoped>
.check {
  display: flex;
  gap: 5px;
  align-items: center;
}
</style>
