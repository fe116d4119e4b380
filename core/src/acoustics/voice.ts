/** Vocal effort: A-weighted level at 1 m in front of the mouth (after ISO 9921, annex A; steps of 6 dB). */
export const vocalEfforts = [
  { name: 'whisper', levelDba: 40 },
  { name: 'relaxed', levelDba: 54 },
  { name: 'normal', levelDba: 60 },
  { name: 'raised', levelDba: 66 },
  { name: 'loud', levelDba: 72 },
  { name: 'very loud', levelDba: 78 },
] as const

/** Half a step between vocal efforts, dB: a level farther from every effort has no name. */
const halfStepDb = 3

/** The vocal effort nearest to a level at 1 m, or beyond all of them. */
export function vocalEffortName(levelDba: number): string {
  const [softest, loudest] = [vocalEfforts[0], vocalEfforts[vocalEfforts.length - 1]!]
  if (levelDba < softest.levelDba - halfStepDb) return `less than ${softest.name}`
  if (levelDba > loudest.levelDba + halfStepDb) return `more than ${loudest.name}`
  const nearest = vocalEfforts.reduce((best, each) =>
    Math.abs(each.levelDba - levelDba) < Math.abs(best.levelDba - levelDba) ? each : best,
  )
  return `about ${nearest.name}`
}
