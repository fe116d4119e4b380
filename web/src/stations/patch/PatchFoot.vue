<script setup lang="ts">
import { computed } from 'vue'
import { deadControls, listeningPlaces } from '@iron-hush/core/advice'
import { missingIn } from '@iron-hush/core/model'
import { cautionsOf } from '@iron-hush/core/report'
import { cautionWords, toBuyPriced } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

/** Where anyone listens, what must be bought, controls without effect, and the usual cautions. */
const scene = useScene()
const gear = useGear()
const ears = computed(() =>
  scene.patch && scene.levels ? listeningPlaces(scene.patch, gear.shelf, scene.levels) : [],
)
const dead = computed(() =>
  scene.patch && scene.levels ? deadControls(scene.patch, gear.shelf, scene.levels) : [],
)
/** Gear that the scene needs and that is not owned, or not often enough. */
const toBuy = computed(() => (scene.patch ? toBuyPriced(missingIn(scene.patch, gear.shelf)) : ''))
const cautions = computed(() => (scene.patch ? cautionsOf(scene.patch, gear.shelf, scene.wiring) : []))
</script>

<template>
  <footer class="foot">
    <p v-if="ears.length"><b>Listening</b> {{ ears.join('; ') }}.</p>
    <p v-if="toBuy"><b>To buy</b> {{ toBuy }}.</p>
    <p v-if="dead.length"><b>No effect here</b> {{ dead.join('; ') }}.</p>
    <details v-for="caution in cautions" :key="caution.code" class="caution">
      <summary>{{ cautionWords(caution) }}</summary>
    </details>
  </footer>
</template>

<style scoped>
.foot {
  grid-template-columns: minmax(0, 1fr);
  padding: 4px 20px 10px;
  display: grid;
  gap: 3px;
  font-size: var(--small);
  max-width: 900px;
}
.foot b {
  font-weight: 600;
  font-stretch: 85%;
  margin-right: 6px;
}
.caution {
  color: var(--quiet);
}
/* one line each; the whole of it when it is pressed */
summary {
  list-style: none;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
[open] summary {
  white-space: normal;
}
@media (max-width: 700px) {
  summary {
    line-height: 44px;
  }
  [open] summary {
    line-height: 1.4;
    min-height: 44px;
  }
}
</style>
