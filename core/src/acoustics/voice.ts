/** Vocal effort: A-weighted level at 1 m in front of the mouth (after ISO 9921, annex A; steps of 6 dB). */
export const vocalEfforts = [
  { name: 'whisper', levelDba: 40 },
  { name: 'relaxed', levelDba: 54 },
  { name: 'normal', levelDba: 60 },
  { name: 'raised', levelDba: 66 },
  { name: 'loud', levelDba: 72 },
  { name: 'very loud', levelDba: 78 },
] as const

/** The effort nearest to a level at 1 m. */
export const vocalEffortName = (levelDba: number): string =>
  vocalEfforts.reduce((best, each) =>
    Math.abs(each.levelDba - levelDba) < Math.abs(best.levelDba - levelDba) ? each : best,
  ).name
