<script setup lang="ts">
/** Changes of the chain since a moment, one line each. */
const { changes, most = Infinity } = defineProps<{
  since: string
  changes: readonly string[]
  most?: number
}>()
</script>

<template>
  <div class="changes">
    <p class="quiet">{{ since }}</p>
    <ul :aria-label="since">
      <li v-for="each in changes.slice(0, most)" :key="each">{{ each }}</li>
      <li v-if="changes.length > most" class="quiet">and {{ changes.length - most }} more</li>
    </ul>
  </div>
</template>

<style scoped>
.changes {
  overflow-wrap: anywhere;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
