import { acousticBoundsDba, type Brief, feedBoundsDbu, type Place, type Source } from './brief'

/*
 * Changes of a brief as people make them; each returns only the part that changes.
 */

type Noise = Brief['noises'][number]
interface Moments {
  quietest: number
  typical: number
  loudest: number
}

/**
 * Levels of an acoustic source with one of them moved. The typical level takes the others with it: whoever speaks louder
 * calls louder too, and a plan for a loudest moment that stayed behind would clip. What is given stays as it is given; the
 * others keep their order around it.
 */
export const movedLevels = (now: Moments, to: Partial<Moments>): Moments =>
  movedWithin(acousticBoundsDba, now, to)

/** A source whose levels are all higher by a number of dB, within bounds. */
export function louderBy(source: Source, byDb: number): Source {
  const moved = (bounds: readonly [number, number], now: Moments) =>
    movedWithin(bounds, now, { typical: Math.min(bounds[1], Math.max(bounds[0], now.typical + byDb)) })
  return source.kind === 'line'
    ? { ...source, levelsDbu: moved(feedBoundsDbu, source.levelsDbu) }
    : { ...source, levelsDba: moved(acousticBoundsDba, source.levelsDba) }
}

/** A noise at another level; its loudest moment moves along. */
export function withNoiseLevel(noise: Noise, levelDba: number): Noise {
  const { loudestDba } = noise
  if (loudestDba === undefined) return { ...noise, levelDba }
  const moved = Math.round(10 * (loudestDba + levelDba - noise.levelDba)) / 10
  return { ...noise, levelDba, loudestDba: Math.min(acousticBoundsDba[1], Math.max(levelDba, moved)) }
}

function movedWithin([least, most]: readonly [number, number], now: Moments, to: Partial<Moments>): Moments {
  const byDb = (to.typical ?? now.typical) - now.typical
  const along = (level: number) => Math.round(10 * Math.min(most, Math.max(least, level + byDb))) / 10
  const { quietest = along(now.quietest), loudest = along(now.loudest) } = to
  const typical = to.typical ?? Math.min(to.loudest ?? most, Math.max(to.quietest ?? least, now.typical))
  return { quietest: Math.min(quietest, typical), typical, loudest: Math.max(loudest, typical) }
}

/** A brief with a level of a line feed moved, dBu, as those of an acoustic source are. */
export const withFeedLevel = (
  { sources }: Brief,
  feed: Extract<Source, { kind: 'line' }>,
  to: Partial<Moments>,
): Pick<Brief, 'sources'> => ({
  sources: sources.map((each) =>
    each.id === feed.id ? { ...feed, levelsDbu: movedWithin(feedBoundsDbu, feed.levelsDbu, to) } : each,
  ),
})

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

/** An id that no source, place or noise of a brief has yet. */
export function freshId({ sources, places, noises }: Brief, stem: string): string {
  const taken = new Set([...sources, ...places, ...noises].map(({ id }) => id))
  let id = stem
  for (let number = 2; taken.has(id); number++) id = `${stem}-${number}`
  return id
}

const acousticLevels = {
  speech: { quietest: 54, typical: 60, loudest: 72 },
  strike: { quietest: 70, typical: 84, loudest: 104 },
  music: { quietest: 60, typical: 76, loudest: 90 },
  machine: { quietest: 70, typical: 80, loudest: 90 },
} as const
const newNames = {
  speech: 'new speaker',
  strike: 'new strike',
  music: 'new music',
  machine: 'new machine',
  line: 'new line feed',
} as const

/** How a source is added: by its kind, or as a common one with its own name. */
export type NewSource = Source['kind'] | 'audience' | 'second language'

/** A further source with typical levels; every place hears an acoustic one as far off as the first. */
export function withSource(brief: Brief, added: NewSource): Pick<Brief, 'sources' | 'places'> {
  const source = newSource(brief, added)
  return {
    sources: [...brief.sources, source],
    places:
      source.kind === 'line'
        ? brief.places
        : brief.places.map((place) => ({
            ...place,
            hears: [
              ...place.hears,
              {
                source: source.id,
                distanceM: heardFromM(place, added),
                angleDeg: added === 'audience' ? audienceAngleDeg : 0,
              },
            ],
          })),
  }
}

/** Angle of the audience off a microphone aimed at the stage: to the side and behind, where no pattern is deaf. */
const audienceAngleDeg = 120

/** An audience sits behind the microphones, and farther off than who speaks. */
const heardFromM = ({ hears }: Place, added: NewSource): number =>
  added === 'audience' ? Math.max(4, ...hears.map(({ distanceM }) => distanceM)) : (hears[0]?.distanceM ?? 1)

function newSource(brief: Brief, added: NewSource): Source {
  const line = { levelsDbu: { quietest: -24, typical: -8, loudest: 0 }, crestDb: 14 }
  switch (added) {
    case 'line':
      return { kind: added, id: freshId(brief, added), name: newNames.line, ...line }
    case 'second language':
      // an interpreter arrives on a separate feed, for a separate channel
      return { kind: 'line', id: freshId(brief, 'second-language'), name: added, ...line }
    case 'audience':
      return {
        kind: 'speech',
        id: freshId(brief, added),
        name: added,
        levelsDba: { quietest: 50, typical: 66, loudest: 86 },
        crestDb: 18,
        movement: 'seated',
      }
    default:
      return {
        kind: added,
        id: freshId(brief, added),
        name: newNames[added],
        levelsDba: acousticLevels[added],
        crestDb: 14,
        movement: 'standing',
      }
  }
}

/** Without a source, and without its part in what the places hear. */
export const withoutSource = ({ sources, places }: Brief, id: string): Pick<Brief, 'sources' | 'places'> => ({
  sources: sources.filter((source) => source.id !== id),
  places: places.map((place) => ({ ...place, hears: place.hears.filter(({ source }) => source !== id) })),
})

/** A further noise of the place: steady, from all round. */
export const withNoise = (brief: Brief): Pick<Brief, 'noises'> => ({
  noises: [
    ...brief.noises,
    { id: freshId(brief, 'noise'), name: 'new noise', levelDba: 40, spectrum: 'even', inPicture: false },
  ],
})

export const withoutNoise = ({ noises, places }: Brief, id: string): Pick<Brief, 'noises' | 'places'> => ({
  noises: noises.filter((noise) => noise.id !== id),
  places: places.map((place) => ({
    ...place,
    ...(place.noises ? { noises: place.noises.filter(({ noise }) => noise !== id) } : {}),
  })),
})

/** Another place for a microphone, at this distance from every acoustic source, m. */
export const withNewPlace = (
  brief: Brief,
  { name, distanceM }: { name: string; distanceM: number } = { name: 'new place', distanceM: 1 },
): Pick<Brief, 'places'> => ({
  places: [
    ...brief.places,
    {
      id: freshId(brief, 'place'),
      name,
      hears: brief.sources
        .filter(({ kind }) => kind !== 'line')
        .map(({ id }) => ({ source: id, distanceM, angleDeg: 0 })),
    },
  ],
})
