<script setup lang="ts">
import { computed } from 'vue'
import { known } from '@iron-hush/core/model'
import SegmentedChoice from '../parts/SegmentedChoice.vue'
import { useScene } from '../state/scene'

/** The scenes of the shoot side by side. */
const scene = useScene()
const open = computed(() => known(scene.document, 'an open scene'))
const here = computed(() => open.value.id)
const scenes = computed(() =>
  (scene.shoots.find(({ id }) => id === open.value.shoot)?.scenes ?? []).map(({ id, name }) => ({
    id,
    name: id === here.value ? scene.openPatch.name : name,
  })),
)
</script>

<template>
  <SegmentedChoice
    class="scenes joined"
    tabs
    :model-value="here"
    :options="scenes"
    label="Scenes"
    @update:model-value="$event && scene.goTo($event)"
  />
</template>

<style scoped>
.scenes {
  flex: 1;
}
</style>
