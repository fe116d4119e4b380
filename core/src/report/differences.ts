import { signed } from '../units'
import { levelsOfPatch, type Run, whereItStops } from '../levels'
import { controlsApart, type Patch, partNameOf, partsOf, positionName, type Shelf, shelfFor } from '../model'

/** Something that differs between two settings of a chain, as a person reads it. */
export interface Difference {
  what: string
  one: string
  other: string
}

const db = (value: number, unit: string): string =>
  Number.isFinite(value) ? `${signed(value)} ${unit}` : 'nothing'
/** Differences smaller than this are not visible. */
const shownDb = 0.05

/**
 * What differs between two settings of one chain: controls that stand elsewhere, and for every recording its peaks, its
 * speech-to-noise and its least headroom where they changed. What only one of them has is left out.
 */
export function differencesOf(one: Patch, other: Patch, commonShelf: Shelf): Difference[] {
  return [...settingsApart(one, other, commonShelf), ...levelsApart(one, other, commonShelf)]
}

function settingsApart(one: Patch, other: Patch, commonShelf: Shelf): Difference[] {
  const shelf = shelfFor(one, commonShelf)
  const names = new Map(partsOf(one).map((part) => [part.id, partNameOf(part, shelf)]))
  return controlsApart(partsOf(one), partsOf(other), shelf).map((apart) => ({
    what: `${names.get(apart.part)}, ${apart.control.name}`,
    one: positionName(apart.control, apart.one),
    other: positionName(apart.control, apart.other),
  }))
}

function levelsApart(one: Patch, other: Patch, shelf: Shelf): Difference[] {
  const [runs, twins] = [one, other].map((patch) => levelsOfPatch(patch, shelf).runs) as [Run[], Run[]]
  return runs.flatMap((run) => {
    const twin = twins.find(({ id }) => id === run.id)
    if (!twin || run.end.kind !== 'recording' || whereItStops(run) || whereItStops(twin)) return []
    const name = `${run.source.name} on ${run.end.boxName}, ${run.end.name}`
    const figures: [string, (each: Run) => number, string][] = [
      ['peaks', ({ peakDb }) => peakDb, 'dBFS'],
      ['speech-to-noise', ({ speechToNoiseDb }) => speechToNoiseDb, 'dB'],
      ['least headroom', ({ tightest }) => tightest?.ceiling.headroomDb ?? Infinity, 'dB'],
    ]
    return figures.flatMap(([what, of, unit]): Difference[] => {
      const [a, b] = [of(run), of(twin)]
      return Math.abs(a - b) > shownDb
        ? [{ what: `${name}: ${what}`, one: db(a, unit), other: db(b, unit) }]
        : []
    })
  })
}
