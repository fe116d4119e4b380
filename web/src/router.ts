import { createRouter, createWebHistory } from 'vue-router'
import { dialogs } from './frame/dialogs'
import { sheets } from './print'
import { idle } from './sync/idle'

const stations = {
  start: () => import('./stations/start/StartStation.vue'),
  brief: () => import('./stations/brief/BriefStation.vue'),
  patch: () => import('./stations/patch/PatchStation.vue'),
  levels: () => import('./stations/levels/LevelsStation.vue'),
  'line-up': () => import('./stations/lineup/LineUpStation.vue'),
  proof: () => import('./stations/proof/ProofStation.vue'),
  roll: () => import('./stations/roll/RollStation.vue'),
  gear: () => import('./stations/gear/GearStation.vue'),
}
const ofScene = ['brief', 'patch', 'levels', 'line-up', 'proof', 'roll', 'gear'] as const

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: stations.start },
    ...ofScene.map((name) => ({ path: `/scene/:scene/${name}`, name, component: stations[name] })),
    // the shelf by itself, before any scene is open
    { path: '/gear', name: 'shelf', component: stations.gear },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

/** Fetches all stations, dialogs and sheets, one after another in idle moments: they open at once then, and while the server is away. */
export async function fetchAhead(): Promise<void> {
  for (const fetched of [...Object.values(stations), ...Object.values(dialogs), ...Object.values(sheets)]) {
    await idle()
    await fetched().catch(() => undefined)
  }
}
