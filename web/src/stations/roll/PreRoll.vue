<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { isForEveryTake, preflightOf } from '@iron-hush/core/advice'
import { preflightWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

/** What must be true before the first take, ticked off; before a later one what may have changed since. */
const props = defineProps<{ later?: boolean }>()
const scene = useScene()
const gear = useGear()
const before = computed(() =>
  preflightOf(scene.openPatch, gear.shelf, scene.runs)
    .filter((item) => !props.later || isForEveryTake(item))
    .map(preflightWords),
)
/** Before a later take all is asked again; what was ticked before the first stays so while other stations are looked at. */
const ticked = props.later
  ? ref<string[]>([])
  : useSessionStorage<string[]>(`iron-hush.ticked.${scene.document?.id}`, [])
</script>

<template>
  <ul class="before" :aria-label="later ? 'Before this take' : 'Before the first take'">
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
  padding: 0 2px;
}
.before label {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 46px;
  padding: 4px 0;
}
/* the same size beside one line and beside two */
.before input {
  flex: none;
  width: 20px;
  height: 20px;
  accent-color: var(--verdigris);
}
</style>
