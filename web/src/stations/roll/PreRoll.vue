<script setup lang="ts">
import { computed, ref } from 'vue'
import { preflightOf } from '@iron-hush/core/advice'
import { preflightWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

/** What must be true before the first take, ticked off. */
const scene = useScene()
const gear = useGear()
const before = computed(() => preflightOf(scene.openPatch, gear.shelf, scene.runs).map(preflightWords))
const ticked = ref<string[]>([])
</script>

<template>
  <ul class="before" aria-label="Before the first take">
    <li v-for="each in before" :key="each">
      <label><input v-model="ticked" type="checkbox" :value="each" /> {{ each }}</label>
    </li>
  </ul>
</template>

<style scoped>
.before {
  list-style: none;
  margin: 0;
  padding: 0;
}
.before li {
  border-top: 1px solid var(--rule);
  padding: 10px 2px;
}
.before label {
  display: flex;
  align-items: center;
  gap: 10px;
}
/* the same size beside one line and beside two */
.before input {
  flex: none;
  width: 20px;
  height: 20px;
  accent-color: var(--verdigris);
}
</style>
