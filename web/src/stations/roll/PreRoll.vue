<script setup lang="ts">
import { useSessionStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { isForEveryTake, preflightOf } from '@iron-hush/core/advice'
import { preflightWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

/**
 * What must be true before the first take, ticked off. Before a later one: what may have changed by itself, and what was
 * never ticked for its present state, where something was: a switch that was moved since is asked for again.
 */
const props = defineProps<{ later?: boolean }>()
const scene = useScene()
const gear = useGear()
/** Ticked before the first take; it stays so while other stations are looked at. */
const kept = useSessionStorage<string[]>(`iron-hush.ticked.${scene.document?.id}`, [])
const done = [...kept.value]
/** Ticked before this take, of what is asked before every one. */
const now = ref<string[]>([])
const lines = computed(() =>
  preflightOf(scene.openPatch, gear.shelf, scene.runs, scene.wiring)
    .map((item) => ({ words: preflightWords(item), again: isForEveryTake(item) }))
    .filter(({ words, again }) => !props.later || again || (done.length > 0 && !done.includes(words))),
)
const listOf = (again: boolean) => (props.later && again ? now : kept)
function tick(words: string, again: boolean, on: boolean): void {
  const list = listOf(again)
  const others = list.value.filter((each) => each !== words)
  list.value = on ? [...others, words] : others
}
</script>

<template>
  <ul class="before" :aria-label="later ? 'Before this take' : 'Before the first take'">
    <li v-for="{ words, again } in lines" :key="words">
      <label>
        <input
          type="checkbox"
          :checked="listOf(again).value.includes(words)"
          @change="tick(words, again, ($event.target as HTMLInputElement).checked)"
        />
        {{ words }}</label
      >
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
