const metresPerFoot = 0.3048

/** A distance as people say it: `45 cm`, `2.4 m`, or in feet and inches. */
export function distance(metres: number, imperial: boolean): string {
  if (!imperial) return metres < 1 ? `${Math.round(metres * 100)} cm` : `${metres.toFixed(1)} m`
  const inches = Math.round((metres / metresPerFoot) * 12)
  return inches < 12 ? `${inches} in` : `${Math.floor(inches / 12)} ft ${inches % 12} in`
}
