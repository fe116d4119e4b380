<script setup lang="ts">
import { useScene } from '../state/scene'

/** The scenes of the shoot side by side. */
const scene = useScene()
</script>

<template>
  <div class="tabs" role="tablist" aria-label="Scenes">
    <button
      v-for="each in scene.shoots.find(({ id }) => id === scene.document!.shoot)?.scenes ?? []"
      :key="each.id"
      type="button"
      role="tab"
      :aria-selected="each.id === scene.document!.id"
      @click="scene.goTo(each.id)"
    >
      {{ each.id === scene.document!.id ? scene.openPatch.name : each.name }}
    </button>
  </div>
</template>

<style scoped>
.tabs {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
}
.tabs button {
  border: 1px solid var(--rule);
  background: none;
  margin-right: -1px;
  padding: 4px 12px;
  cursor: pointer;
  font-stretch: 85%;
}
.tabs [aria-selected='true'] {
  background: var(--ink);
  color: var(--sheet);
  border-color: var(--ink);
}
</style>
