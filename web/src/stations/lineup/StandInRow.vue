<script setup lang="ts">
/** A stand-in that can do the step, marked as what it is. */
defineProps<{ name: string; working: boolean }>()
</script>

<template>
  <div class="stand-in">
    <span class="tag">stand-in</span>
    <span>{{ name }}</span>
    <slot />
    <span v-if="working" role="status" class="quiet">Recording &hellip;</span>
  </div>
</template>

<style scoped>
.stand-in {
  flex-basis: 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  font-size: var(--small);
}
.tag {
  border: 1px dashed var(--ink);
  padding: 1px 6px;
  font-stretch: 85%;
}
</style>
