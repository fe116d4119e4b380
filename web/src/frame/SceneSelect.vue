<script setup lang="ts">
import Select from 'primevue/select'
import { computed } from 'vue'
import { useScene } from '../state/scene'

/** Selects the scene of the shoot. */
const scene = useScene()
const scenes = computed(() => scene.shoots.find(({ id }) => id === scene.document?.shoot)?.scenes ?? [])
</script>

<template>
  <Select
    class="scene"
    :model-value="scene.document!.id"
    :options="scenes"
    option-label="name"
    option-value="id"
    size="small"
    aria-label="Scene"
    @update:model-value="scene.goTo($event)"
  />
</template>

<style scoped>
@media (max-width: 700px) {
  /* its name may be cut off: buttons are beside it */
  .scene {
    flex: 1 1 120px;
    min-width: 0;
  }
}
</style>
