<script setup lang="ts">
import Button from 'primevue/button'
</script>

<template>
  <div class="empty">
    <p>
      Nothing reaches a recording yet. Connect a microphone to a recorder or a camera, and the map is drawn
      here.
    </p>
    <Button
      label="Go to Patch"
      severity="secondary"
      @click="$router.push({ name: 'patch', params: $route.params })"
    />
  </div>
</template>

<style scoped>
.empty {
  padding: 40px 18px;
  display: grid;
  gap: 14px;
  justify-items: start;
  align-content: start;
}
</style>
