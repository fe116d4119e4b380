/** What is opened over a station now and then. */
export const dialogs = {
  about: () => import('./AboutDialog.vue'),
  conflict: () => import('./ConflictDialog.vue'),
  find: () => import('./FindDialog.vue'),
  keys: () => import('./KeysDialog.vue'),
  share: () => import('./ShareDialog.vue'),
  terms: () => import('./TermsDialog.vue'),
}
