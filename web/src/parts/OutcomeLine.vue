<script setup lang="ts">
import { computed } from 'vue'
import { type Outcome, severityOf } from '@iron-hush/core/advice'
import { outcomeWords } from '@iron-hush/core/words'

/** Outcome of a change, by shape and in words. */
const props = defineProps<{ outcome: Outcome }>()
const severity = computed(() => severityOf(props.outcome))
</script>

<template>
  <span class="brings" :class="severity">
    {{ severity === 'none' ? '\u2713' : '\u25B2' }} {{ outcomeWords(outcome) }}
  </span>
</template>
