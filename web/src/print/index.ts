/** Sheets to print, each fetched when it is asked for. */
export const sheets = {
  settingsCard: () => import('./settings-card'),
  patchSheet: () => import('./patch-sheet'),
  clipSheet: () => import('./clip-sheet'),
}
