import { createRouter, createWebHistory } from 'vue-router'

/** The stations that are built, in the order of work. The number is the key and stays when others join. */
export const stations = [
  { name: 'brief', title: 'Brief', key: '1' },
  { name: 'patch', title: 'Patch', key: '2' },
  { name: 'levels', title: 'Levels', key: '3' },
  { name: 'proof', title: 'Proof', key: '5' },
  { name: 'roll', title: 'Roll', key: '7' },
] as const
export type StationName = (typeof stations)[number]['name']

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: { render: () => null } },
    {
      path: '/scene/:scene/brief',
      name: 'brief',
      component: () => import('./stations/brief/BriefStation.vue'),
    },
    {
      path: '/scene/:scene/patch',
      name: 'patch',
      component: () => import('./stations/patch/PatchStation.vue'),
    },
    {
      path: '/scene/:scene/levels',
      name: 'levels',
      component: () => import('./stations/levels/LevelsStation.vue'),
    },
    {
      path: '/scene/:scene/proof',
      name: 'proof',
      component: () => import('./stations/proof/ProofStation.vue'),
    },
    { path: '/scene/:scene/roll', name: 'roll', component: () => import('./stations/roll/RollStation.vue') },
    { path: '/scene/:scene/gear', name: 'gear', component: () => import('./stations/gear/GearStation.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
