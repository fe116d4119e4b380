<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import type { Shoot } from '@iron-hush/core/contract'
import { useShoots } from '../../state/shoots'
import SceneRow from './SceneRow.vue'
import { useSceneStates } from './scene-states'
import { exportShoot, importFiles } from '../../state/scene-files'

/** The shoots with their scenes: opened, named, dated, ordered, copied, moved, exported, deleted. */
const shoots = useShoots()
const states = useSceneStates()
const opened = ref<string>()

const change = (shoot: Shoot, field: 'name' | 'date' | 'place', event: Event) => {
  const input = event.target as HTMLInputElement
  const text = input.value.trim()
  if (field === 'name' && !text) {
    input.value = shoot.name
    return
  }
  void shoots.changeShoot(shoot, { [field]: field === 'date' ? text || null : text })
}
async function make(): Promise<void> {
  opened.value = await shoots.makeShoot({ name: 'New shoot', date: null, place: '' })
}
function pick(event: Event): void {
  const input = event.target as HTMLInputElement
  void importFiles([...(input.files ?? [])])
  input.value = ''
}
const hasDemo = () => shoots.list.some(({ demo }) => demo)
</script>

<template>
  <section aria-label="Shoots">
    <h2>Shoots</h2>
    <article v-for="shoot in shoots.list" :key="shoot.id">
      <header>
        <input
          class="name"
          :value="shoot.name"
          maxlength="120"
          :aria-label="`Name of ${shoot.name}`"
          @change="change(shoot, 'name', $event)"
        />
        <span class="date">{{ shoot.date ?? (shoot.demo ? 'demo' : 'no date') }}</span>
        <button
          type="button"
          class="link"
          :aria-expanded="opened === shoot.id"
          :aria-label="`More about ${shoot.name}`"
          @click="opened = opened === shoot.id ? undefined : shoot.id"
        >
          Details
        </button>
      </header>
      <div v-if="opened === shoot.id" class="more">
        <label
          >Date <input type="date" :value="shoot.date ?? ''" @change="change(shoot, 'date', $event)"
        /></label>
        <label
          >Place
          <input
            :value="shoot.place"
            maxlength="120"
            placeholder="in words"
            @change="change(shoot, 'place', $event)"
        /></label>
        <button type="button" class="link" @click="exportShoot(shoot)">Export</button>
        <button type="button" class="link" @click="shoots.removeShoot(shoot)">Delete</button>
      </div>
      <SceneRow
        v-for="(scene, at) in shoot.scenes"
        :key="scene.id"
        :shoot
        :scene
        :at
        :state="states.get(scene.id)"
      />
      <p v-if="shoot.scenes.length === 0" class="quiet">No scene yet: plan one, or import a patch.</p>
    </article>
    <div class="buttons">
      <Button label="New shoot" severity="secondary" size="small" @click="make" />
      <label class="import"
        >Import<input
          type="file"
          accept=".json,application/json"
          multiple
          aria-label="Import a patch or a shoot"
          @change="pick"
      /></label>
      <Button
        v-if="!hasDemo()"
        label="Bring back the demo"
        severity="secondary"
        size="small"
        @click="shoots.bringDemo()"
      />
    </div>
  </section>
</template>

<style scoped>
h2 {
  padding-bottom: 8px;
}
article {
  border-top: 1px solid var(--ink);
  padding: 8px 0 10px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 10px;
}
.date {
  color: var(--quiet);
  font-size: var(--small);
}
.name {
  flex: 1;
  min-width: 0;
  border: 1px solid transparent;
  background: none;
  padding: 1px 4px;
  margin-left: -5px;
  font-weight: 650;
  font-size: var(--lead);
  border-radius: 2px;
}
.name:hover,
.name:focus {
  border-color: var(--rule);
  background: var(--sheet);
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 6px 0;
  font-size: var(--small);
}
.more input {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  padding: 2px 6px;
  max-width: 130px;
}
.link {
  border: 0;
  background: none;
  padding: 2px 0;
  cursor: pointer;
  color: var(--quiet);
  font-size: var(--small);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  padding: 6px 0 14px;
}
.import {
  position: relative;
  border: 1px solid var(--ink);
  background: var(--sheet);
  border-radius: 2px;
  padding: 4px 12px;
  font-size: var(--small);
  font-weight: 600;
  font-stretch: 85%;
  cursor: pointer;
}
.import:focus-within {
  outline: 2px solid var(--brass);
}
.import input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
</style>
