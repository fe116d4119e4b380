/** Dialogs that are loaded on demand. */
export const dialogs = {
  about: () => import('./AboutDialog.vue'),
  conflict: () => import('./ConflictDialog.vue'),
  find: () => import('./FindDialog.vue'),
  keys: () => import('./KeysDialog.vue'),
  share: () => import('./ShareDialog.vue'),
  kits: () => import('../stations/levels/KitPanel.vue'),
  listen: () => import('../stations/levels/ListenPanel.vue'),
  terms: () => import('./TermsDialog.vue'),
}
