<script setup lang="ts">
import { onMounted, ref } from 'vue'

/**
 * Content that can appear a moment later: it is built once the rest is on the screen, so that opening a station is
 * several short tasks and never one that keeps a key waiting.
 */
const { frames = 1 } = defineProps<{ frames?: number }>()
const shown = ref(false)
const painted = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
onMounted(async () => {
  for (let frame = 0; frame < frames; frame++) await painted()
  shown.value = true
})
</script>

<template>
  <slot v-if="shown" />
  <slot v-else name="meanwhile" />
</template>
