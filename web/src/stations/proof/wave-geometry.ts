import type { TimeRange } from '@iron-hush/core/model'

/** The slices that lie in sight, as one closed line. */
export function outlineOf(
  envelope: readonly (readonly [number, number])[],
  of: TimeRange,
  x: (seconds: number) => number,
  y: (sample: number) => number,
): string {
  const sliceS = (of.toS - of.fromS) / envelope.length
  const along = (pick: 0 | 1) =>
    envelope.map(
      (pair, index) => `${x(of.fromS + (index + 0.5) * sliceS).toFixed(1)} ${y(pair[pick]).toFixed(1)}`,
    )
  return `M${along(1).join(' L')} L${along(0).reverse().join(' L')} Z`
}
/** Values of equal slices as a line, broken where a value is missing. */
export function lineOf(
  values: readonly (number | null)[],
  of: TimeRange,
  x: (seconds: number) => number,
  y: (value: number) => number,
): string {
  const sliceS = (of.toS - of.fromS) / values.length
  let isOpen = false
  return values
    .flatMap((value, index) => {
      const begins = !isOpen
      isOpen = value !== null
      if (value === null) return []
      return [
        `${begins ? 'M' : 'L'}${x(of.fromS + (index + 0.5) * sliceS).toFixed(1)} ${y(value).toFixed(1)}`,
      ]
    })
    .join(' ')
}
/** Moments that are written under a wave, as far apart as their words need. */
export function ticksOf(fromS: number, toS: number, width: number): number[] {
  const leastS = ((toS - fromS) * 70) / Math.max(1, width)
  const stepS =
    [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800].find(
      (each) => each >= leastS,
    ) ?? 3600
  const first = Math.ceil(fromS / stepS)
  return Array.from(
    { length: Math.max(0, Math.ceil(toS / stepS) - first) },
    (_, index) => (first + index) * stepS,
  )
}
