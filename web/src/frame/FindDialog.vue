<script setup lang="ts">
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { terms } from '@iron-hush/core/words'
import { stations } from './stations'
import { useGearPlace } from './gear-place'
import { useGear } from '../state/gear'
import { useScene } from '../state/scene'
import { useView } from '../state/view'

const view = useView()
const scene = useScene()
const gear = useGear()
const gearPlace = useGearPlace()
const route = useRoute()
const router = useRouter()
const wanted = ref('')

interface Hit {
  what: string
  name: string
  go: () => void
}

/** Stations and runs are those of the scene that is open, also where another page covers it. */
const ofScene = computed<Hit[]>(() => {
  const id = scene.document?.id
  if (!id) return []
  return [
    ...stations.map(({ name, title }) => ({
      what: 'station',
      name: title,
      go: () => void router.push({ name, params: { scene: id } }),
    })),
    ...scene.runs.map((run) => ({
      what: 'run',
      name: `${run.entry.name} \u2192 ${run.end.boxName}, ${run.end.name}`,
      go: () => {
        scene.runId = run.id
        if (route.params.scene !== id) void scene.goTo(id)
      },
    })),
  ]
})
const all = computed<Hit[]>(() => [
  ...ofScene.value,
  ...scene.shoots.flatMap(({ scenes }) =>
    scenes.map(({ id, name }) => ({ what: 'scene', name, go: () => void scene.goTo(id) })),
  ),
  ...terms.map(({ name }) => ({ what: 'term', name, go: () => view.explain(name) })),
  ...gear.all.map(({ id, name, maker }) => ({
    what: 'gear',
    name: `${name}, ${maker}`,
    go: () => void router.push(gearPlace(id)),
  })),
])
const hits = computed(() =>
  all.value.filter(({ name }) => name.toLowerCase().includes(wanted.value.toLowerCase())).slice(0, 12),
)

function take(hit: Hit | undefined): void {
  if (!hit) return
  view.open = undefined
  hit.go()
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Find"
    :style="{ width: 'min(520px, 96vw)' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <InputText
      v-model="wanted"
      autofocus
      fluid
      placeholder="a station, scene, run, term or thing"
      aria-label="Find"
      @keydown.enter="take(hits[0])"
    />
    <ul>
      <li v-for="hit in hits" :key="hit.what + hit.name">
        <button type="button" @click="take(hit)">
          <span class="quiet">{{ hit.what }}</span> {{ hit.name }}
        </button>
      </li>
      <li v-if="hits.length === 0" class="quiet">Nothing found by that name.</li>
    </ul>
  </Dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  min-height: 200px;
}
button {
  width: 100%;
  text-align: left;
  border: 0;
  background: none;
  padding: 5px 8px;
  cursor: pointer;
}
button:hover {
  background: var(--paper);
}
.quiet {
  display: inline-block;
  width: 64px;
}
</style>
