<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { known } from '@iron-hush/core/model'
import SegmentedChoice from '../parts/SegmentedChoice.vue'
import { useScene } from '../state/scene'
import SceneSelect from './SceneSelect.vue'

/** The scenes of the shoot side by side; one under another where there is no room. */
const narrow = useMediaQuery('(max-width: 700px)')
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
  <SceneSelect v-if="narrow" />
  <SegmentedChoice
    v-else
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
