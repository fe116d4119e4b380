import type { Brief, Place } from './brief'

/*
 * Changes of a brief as people make them; each returns only the part that changes.
 */

interface Moments {
  quietest: number
  typical: number
  loudest: number
}

/** Levels with one of them moved: the three keep their order, whichever it is. */
export function movedLevels(now: Moments, to: Partial<Moments>): Moments {
  const next = { ...now, ...to }
  if (to.typical !== undefined)
    return {
      ...next,
      quietest: Math.min(next.quietest, to.typical),
      loudest: Math.max(next.loudest, to.typical),
    }
  return {
    ...next,
    quietest: Math.min(next.quietest, next.typical),
    loudest: Math.max(next.loudest, next.typical),
  }
}

/** Places with one of them at another distance, m, from a source. */
export const withDistance = ({ places }: Brief, place: string, source: string, distanceM: number): Place[] =>
  places.map((each) =>
    each.id === place
      ? {
          ...each,
          hears: each.hears.map((heard) => (heard.source === source ? { ...heard, distanceM } : heard)),
        }
      : each,
  )

/** Places at which a noise comes from an angle off the axis, degrees; null: from all round. */
export const withNoiseAngle = (
  { places }: Brief,
  at: ReadonlySet<string>,
  noise: string,
  angleDeg: number | null,
): Place[] =>
  places.map((place) => {
    if (!at.has(place.id)) return place
    const others = (place.noises ?? []).filter((each) => each.noise !== noise)
    return { ...place, noises: angleDeg === null ? others : [...others, { noise, angleDeg }] }
  })
