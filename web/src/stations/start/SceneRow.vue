<script setup lang="ts">
import Menu from 'primevue/menu'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import type { SceneSummary, Shoot } from '@iron-hush/core/contract'
import { useShoots } from '../../state/shoots'
import { exportScene } from '../../state/scene-files'
import type { SceneState } from './scene-states'

/** A scene of a shoot: its verdict, and what can be done with it. */
const props = defineProps<{
  shoot: Shoot
  scene: SceneSummary
  at: number
  state: SceneState | undefined
}>()
const shoots = useShoots()
const menu = useTemplateRef('menu')
const naming = ref(false)
const field = useTemplateRef('field')

async function startNaming(): Promise<void> {
  naming.value = true
  await nextTick()
  field.value?.select()
}
function name(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  naming.value = false
  if (text && text !== props.scene.name) void shoots.renameScene(props.scene, text)
}
const here = computed(() => ({ shoot: props.shoot.id, position: props.at }))
const items = computed(() => [
  { label: 'Rename', command: startNaming },
  { label: 'Copy', command: () => shoots.copyScene(props.shoot, props.scene) },
  { label: 'Export', command: () => exportScene(props.scene) },
  {
    label: 'Move up',
    disabled: props.at === 0,
    command: () => shoots.move(props.shoot, props.scene, { ...here.value, position: props.at - 1 }),
  },
  {
    label: 'Move down',
    disabled: props.at === props.shoot.scenes.length - 1,
    command: () => shoots.move(props.shoot, props.scene, { ...here.value, position: props.at + 1 }),
  },
  ...shoots.list
    .filter(({ id }) => id !== props.shoot.id)
    .map(({ id, name: to, scenes }) => ({
      label: `Move to ${to}`,
      command: () => shoots.move(props.shoot, props.scene, { shoot: id, position: scenes.length }),
    })),
  { label: 'Delete', command: () => shoots.removeScene(props.scene) },
])
</script>

<template>
  <div class="scene">
    <input
      v-if="naming"
      ref="field"
      :value="scene.name"
      maxlength="120"
      :aria-label="`Name of ${scene.name}`"
      @change="name"
      @blur="naming = false"
      @keydown.escape="naming = false"
    />
    <RouterLink v-else :to="{ name: 'levels', params: { scene: scene.id } }">{{ scene.name }}</RouterLink>
    <span class="state" :class="state && `tone-${state.tone}`">{{ state?.words }}</span>
    <button
      type="button"
      :aria-label="`What to do with ${scene.name}`"
      aria-haspopup="menu"
      @click="menu?.toggle($event)"
    >
      &#8943;
    </button>
    <Menu ref="menu" :model="items" popup />
  </div>
</template>

<style scoped>
.scene {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 28px;
  gap: 8px;
  align-items: center;
}
a {
  color: inherit;
  text-decoration: none;
  padding: 3px 0;
}
a:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.state {
  font-size: var(--small);
  color: var(--quiet);
}
.state.tone-settled {
  color: var(--verdigris);
}
.state.tone-ceiling {
  color: var(--iron);
}
button {
  border: 0;
  background: none;
  cursor: pointer;
  min-height: 28px;
}
input {
  border: 1px solid var(--ink);
  background: var(--sheet);
  border-radius: 2px;
  padding: 1px 4px;
  width: 100%;
}
</style>
