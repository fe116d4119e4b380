import { createRouter, createWebHistory } from 'vue-router'

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'start', component: () => import('./stations/start/StartStation.vue') },
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
    // the shelf by itself, before any scene is open
    { path: '/gear', name: 'shelf', component: () => import('./stations/gear/GearStation.vue') },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
