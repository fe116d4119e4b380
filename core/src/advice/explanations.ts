import type { Edit } from '../edits'
import { applyEdits } from '../edits'
import { incrementalLevels, type Run } from '../levels'
import {
  type ChannelMeasurement,
  partNameOf,
  gearOf,
  louderBy,
  type Patch,
  type Position,
  positionName,
  positionsOf,
  type Shelf,
  shelfFor,
  withDistance,
  withNoiseLevel,
} from '../model'
import { powerDb } from '../units'

/** An assumption of the plan that may be off, and what it would have to be for the clip to come out as it did. */
export type Cause =
  | { kind: 'distance'; plannedM: number; distanceM: number; source: string }
  | { kind: 'voice'; byDb: number; source: string }
  | { kind: 'place noise'; plannedDba: number; levelDba: number; noise: string }
  | {
      kind: 'control'
      part: string
      partName: string
      control: string
      controlName: string
      position: Position
      positionName: string
      plannedName: string
    }
  | { kind: 'box noise'; byDb: number; partName: string }

export interface Explanation {
  cause: Cause
  /** How far it is to be believed, beside the others and beside everything else: 0 to 1. */
  belief: number
  /** Edits that bring it into the plan; empty where that needs another measurement. */
  edits: Edit[]
}

/** Spread of single clips around the mean although everything is as planned, dB. */
const spreadDb: Figures = { typicalDb: 2, noiseDb: 2, peakDb: 4 }
/** How often each assumption is off, beside all being as planned: experience, not measurement. */
const before = {
  'as planned': 1,
  distance: 1,
  voice: 1,
  'place noise': 1,
  control: 0.6,
  'box noise': 0.25,
  'something else': 0.5,
}
/** By how much each is off as a rule. */
const usually = { distanceShare: 0.45, voiceDb: 4, placeNoiseDb: 6, boxNoiseDb: 4 } as const
/** Spread assumed for "something else", dB: it may lie anywhere within this. */
const anywhereDb = 15
const fewestBelief = 0.04
/** Sum of squared differences, each in standard deviations, up to which the plan needs no explanation. */
const fitsWithin = 4
/** A control with more positions than this is tried at evenly spaced ones. */
const mostPositions = 60

interface Figures {
  typicalDb: number
  noiseDb: number
  peakDb: number
}
/** One value that an assumption could have, how likely before the clip was heard, and what the clip would then show. */
interface Trial {
  cause: Cause
  prior: number
  figures: Figures
  edits: Edit[]
}

/**
 * Which assumption explains best why a clip came out otherwise than planned: each is tried over the values that it could
 * have, the levels are computed again, and the rule of Bayes weighs them, the current plan and "something else" too.
 * Empty where the plan explains the clip well enough, or nothing was measured to compare.
 */
export function explanationsOf(
  channel: ChannelMeasurement,
  run: Run,
  patch: Patch,
  shelf: Shelf,
): Explanation[] {
  // a source that plays on hides the noise of the pauses
  const measured = run.playsOn === undefined ? channel : { ...channel, pauses: false }
  if (measured.speechDbfsA === null || fits(measured, figuresOfRun(run))) return []
  const likelihood = (figures: Figures): number => likelihoodOf(measured, figures, spreadDb)
  const levels = incrementalLevels()
  const figuresOf = (changed: Patch): Figures | undefined => {
    const found = levels(changed, shelf).runs.find(({ id }) => id === run.id)
    return found && Number.isFinite(found.typicalDb) ? figuresOfRun(found) : undefined
  }
  const tried = (cause: Cause, prior: number, edits: Edit[]): Trial[] => {
    const figures = figuresOf(applyEdits(patch, edits, shelf))
    return figures ? [{ cause, prior, figures, edits }] : []
  }
  const trials = [
    ...distances(patch, run, tried),
    ...voices(patch, run, tried),
    ...placeNoises(patch, tried),
    ...controls(patch, shelf, run, tried),
    ...boxNoises(run),
  ]
  const likely = trials.map(({ figures }) => likelihood(figures))
  const weights = trials.map(({ cause, prior }, index) => before[cause.kind] * prior * likely[index]!)
  const planned = before['as planned'] * likelihood(figuresOfRun(run))
  const other = before['something else'] * likelihoodOf(measured, figuresOfRun(run), anywhere)
  const total = weights.reduce((sum, weight) => sum + weight, planned + other)
  if (!(total > 0)) return []
  const byCause = new Map<string, { best: number; weight: number }>()
  trials.forEach(({ cause }, index) => {
    const key = keyOf(cause)
    const known = byCause.get(key) ?? { best: index, weight: 0 }
    known.weight += weights[index]!
    // the probability of a cause includes what is usual; its size follows from the clip alone
    if (likely[index]! > likely[known.best]!) known.best = index
    byCause.set(key, known)
  })
  return [...byCause.values()]
    .map(({ best, weight }) => ({
      cause: trials[best]!.cause,
      belief: weight / total,
      edits: trials[best]!.edits,
    }))
    .filter(({ belief }) => belief >= fewestBelief)
    .sort((one, another) => another.belief - one.belief)
}

const keyOf = (cause: Cause): string =>
  cause.kind === 'control'
    ? `control ${cause.part} ${cause.control}`
    : cause.kind === 'place noise'
      ? `place noise ${cause.noise}`
      : cause.kind

const figuresOfRun = ({ typicalDb, noiseWithPlaceDb, peakDb }: Run): Figures => ({
  typicalDb,
  noiseDb: noiseWithPlaceDb,
  peakDb,
})

const anywhere: Figures = { typicalDb: anywhereDb, noiseDb: anywhereDb, peakDb: anywhereDb }

/** Differences of what was measured from figures. Cut crests say nothing of the peak but that it would have been as high. */
function differences(
  { speechDbfsA, noiseDbfsA, pauses, peakDbfs, clipped }: ChannelMeasurement,
  { typicalDb, noiseDb, peakDb }: Figures,
  spread: Figures,
): { spreads: number; widthDb: number }[] {
  const all = [
    [speechDbfsA, typicalDb, spread.typicalDb],
    [pauses ? noiseDbfsA : null, noiseDb, spread.noiseDb],
    [clipped.length ? null : peakDbfs, peakDb, spread.peakDb],
  ] as const
  return all.flatMap(([measured, figure, widthDb]) =>
    measured === null ? [] : [{ spreads: (measured - figure) / widthDb, widthDb }],
  )
}
const fits = (measured: ChannelMeasurement, figures: Figures): boolean =>
  differences(measured, figures, spreadDb).reduce((sum, { spreads }) => sum + spreads ** 2, 0) < fitsWithin

/** Density of what was measured, were the figures true. */
const likelihoodOf = (measured: ChannelMeasurement, figures: Figures, spread: Figures): number =>
  differences(measured, figures, spread).reduce(
    (likely, { spreads, widthDb }) => (likely * Math.exp(-0.5 * spreads ** 2)) / widthDb,
    1,
  )

type Tried = (cause: Cause, prior: number, edits: Edit[]) => Trial[]

/** Values from -2.5 to 2.5 spreads away, each with its share of a normal distribution. */
const offs: readonly { off: number; prior: number }[] = (() => {
  const steps = Array.from({ length: 25 }, (_, index) => (index - 12) / 4.8)
  const sum = steps.reduce((all, off) => all + Math.exp(-0.5 * off * off), 0)
  return steps.map((off) => ({ off, prior: Math.exp(-0.5 * off * off) / sum }))
})()

function distances(patch: Patch, run: Run, tried: Tried): Trial[] {
  const { brief } = patch
  const box = patch.boxes.find(({ id }) => id === run.entry.part)
  const place = brief.places.find(({ id }) => id === box?.place)
  const heard = place?.hears.find(({ source }) => source === run.source.id)
  if (!place || !heard) return []
  return offs.flatMap(({ off, prior }) => {
    const distanceM = Number((heard.distanceM * Math.exp(off * usually.distanceShare)).toPrecision(2))
    const places = withDistance(brief, place.id, run.source.id, distanceM)
    return tried({ kind: 'distance', plannedM: heard.distanceM, distanceM, source: run.source.name }, prior, [
      { kind: 'change brief', to: { places } },
    ])
  })
}

function voices(patch: Patch, run: Run, tried: Tried): Trial[] {
  return offs.flatMap(({ off, prior }) => {
    const byDb = Math.round(off * usually.voiceDb * 2) / 2
    const sources = patch.brief.sources.map((source) =>
      source.id === run.source.id ? louderBy(source, byDb) : source,
    )
    return tried({ kind: 'voice', byDb, source: run.source.name }, prior, [
      { kind: 'change brief', to: { sources } },
    ])
  })
}

function placeNoises({ brief }: Patch, tried: Tried): Trial[] {
  return brief.noises.flatMap(({ id, name, levelDba: plannedDba }) =>
    offs.flatMap(({ off, prior }) => {
      const levelDba = Math.round(Math.max(0, Math.min(140, plannedDba + off * usually.placeNoiseDb)))
      const noises = brief.noises.map((noise) => (noise.id === id ? withNoiseLevel(noise, levelDba) : noise))
      return tried({ kind: 'place noise', plannedDba, levelDba, noise: name }, prior / brief.noises.length, [
        { kind: 'change brief', to: { noises } },
      ])
    }),
  )
}

/** Every control that this run passes, in every other position. */
function controls(patch: Patch, commonShelf: Shelf, run: Run, tried: Tried): Trial[] {
  const shelf = shelfFor(patch, commonShelf)
  const parts = new Set(run.points.map(({ part }) => part))
  const passed = patch.boxes
    .filter(({ id }) => parts.has(id))
    .flatMap((box) =>
      gearOf(shelf, box.gear).controls.map((control) => ({
        part: box.id,
        partName: partNameOf(box, shelf),
        control,
        planned: box.settings[control.id] ?? control.initial,
      })),
    )
  return passed.flatMap(({ part, partName, control, planned }) => {
    const all = positionsOf(control).filter((position) => position !== planned)
    const every = Math.ceil(all.length / mostPositions)
    const positions = all.filter((_, index) => index % every === 0)
    return positions.flatMap((position) =>
      tried(
        {
          kind: 'control',
          part,
          partName,
          control: control.id,
          controlName: control.name,
          position,
          positionName: positionName(control, position),
          plannedName: positionName(control, planned),
        },
        1 / (passed.length * positions.length),
        [{ kind: 'set control', part, control: control.id, position }],
      ),
    )
  })
}

/** A box that hisses more or less than its figures say; the place stays as it is. */
function boxNoises(run: Run): Trial[] {
  const [loudest] = [...run.shares].sort((one, another) => another.share - one.share)
  if (!loudest) return []
  const power = (db: number) => 10 ** (db / 10)
  const place = Math.max(0, power(run.noiseWithPlaceDb) - power(run.noiseDb))
  return offs.flatMap(({ off, prior }) => {
    const byDb = Math.round(off * usually.boxNoiseDb * 2) / 2
    const noiseDb = powerDb(place + power(run.noiseDb) * (1 - loudest.share + loudest.share * power(byDb)))
    const cause = { kind: 'box noise', byDb, partName: loudest.partName } as const
    return [{ cause, prior, figures: { ...figuresOfRun(run), noiseDb }, edits: [] }]
  })
}
