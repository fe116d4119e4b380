/** A chance as a person would say it. */
export function chanceWords(chance: number): string {
  if (chance < 0.001) return 'less than one take in a thousand'
  if (chance < 0.02) return `one take in ${Math.round(1 / chance)}`
  if (chance > 0.98) return 'nearly every take'
  return `${Math.round(chance * 100)} takes in a hundred`
}
