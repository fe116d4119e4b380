import { normal, random } from '../signals'
import { choleskyOf, drawn, type Matrix, solvedBy } from './gaussian'
import { risingFit } from './monotone'

/** A gain that was read with the control at a position. */
export interface LawReading {
  /** Which position, counted from the lowest. */
  position: number
  gainDb: number
  /** How sure the reading is, one standard deviation, dB. */
  toleranceDb: number
}

/** What is believed of a control before anything was read. */
export interface LawPrior {
  /** The usual gain at each position, lowest first. Rising; a control that attenuates is given upside down. */
  typicalDb: readonly number[]
  /** How far the whole may be off, one standard deviation, dB. */
  offsetDb: number
  /** How far the law may bend away from the usual one, one standard deviation, dB. */
  bendDb: number
  /** Named positions, each of which may be off by itself: nothing is smooth between them. */
  separate?: boolean
}

export interface LawPoint {
  gainDb: number
  /** Half of the width within which it lies in 95 of 100 cases, dB. */
  toleranceDb: number
  lowDb: number
  highDb: number
}

/** The law of a control. */
export interface Law {
  points: LawPoint[]
  /** Readings that contradict the others, with their deviation. They were left out. */
  outliers: { reading: number; offDb: number }[]
  /** Two readings that cannot both be right, and nothing says which is wrong: the gain would fall as the control rises. */
  contradictions: [number, number][]
}

const draws = 200
const seed = 11
/** A law with more positions than this is computed at evenly spaced ones and interpolated between. */
const mostPlaces = 60
/** Correlation length of a law's shape, as a share of the control's travel. */
const smoothOver = 0.22
/** Deviation from the other readings beyond which one is left out, standard deviations. */
/** Roughness of a real scale, dB; it also keeps the matrix well conditioned. */
const roughDb = 0.1
const outlierAt = 3.5
const fallsAt = 3.5

/**
 * The law of a control from readings at some of its positions: a Gaussian process around the usual law (offset, tilt and
 * smooth bend; Rasmussen and Williams 2006, section 2.2), drawn from, each draw made rising by pooling neighbours that
 * fall. Readings that the others contradict are named and left out.
 */
export function lawOf(prior: LawPrior, readings: readonly LawReading[]): Law {
  const count = prior.typicalDb.length
  const places = placesOf(count, readings)
  const covariance = covarianceOf(prior, count)
  const { kept, outliers } = withoutOutliers(prior, covariance, readings)
  const posterior = posteriorOf(prior, covariance, kept, places)
  const lower = choleskyOf(posterior.covariance)
  const next = normal(random(seed))
  const laws = Array.from({ length: draws }, () => {
    const off = drawn(lower, next)
    return risingFit(posterior.mean.map((mean, index) => mean + off[index]!))
  })
  const at = places.map((_, index) => pointOf(laws.map((law) => law[index]!)))
  return {
    points: Array.from({ length: count }, (_, position) => between(places, at, position)),
    outliers,
    contradictions: contradictionsIn(readings, new Set(outliers.map(({ reading }) => reading))),
  }
}

/** Where the law is worked out: everywhere, or at even distances, the ends, and wherever something was read. */
function placesOf(count: number, readings: readonly LawReading[]): number[] {
  const every = Math.ceil(count / mostPlaces)
  const wanted = new Set([0, count - 1, ...readings.map(({ position }) => position)])
  return Array.from({ length: count }, (_, position) => position).filter(
    (position) => position % every === 0 || wanted.has(position),
  )
}

type Covariance = (one: number, other: number) => number

function covarianceOf({ offsetDb, bendDb, separate }: LawPrior, count: number): Covariance {
  const share = (position: number) => (count > 1 ? position / (count - 1) : 0)
  return (one, other) => {
    const [x, y] = [share(one), share(other)]
    const bend = separate ? Number(one === other) : Math.exp(-0.5 * ((x - y) / smoothOver) ** 2)
    const tilt = separate ? 0 : (x - 0.5) * (y - 0.5)
    return offsetDb ** 2 + bendDb ** 2 * (bend + tilt)
  }
}

/** Mean and covariance at some places, given the readings. */
function posteriorOf(
  { typicalDb }: LawPrior,
  covariance: Covariance,
  readings: readonly LawReading[],
  places: readonly number[],
): { mean: number[]; covariance: Matrix } {
  const lower = choleskyOf(
    readings.map((one, row) =>
      Float64Array.from(
        readings,
        (other, column) =>
          covariance(one.position, other.position) + (row === column ? one.toleranceDb ** 2 : 0),
      ),
    ),
  )
  const off = solvedBy(
    lower,
    readings.map(({ gainDb, position }) => gainDb - typicalDb[position]!),
  )
  const toReadings = places.map((place) => readings.map(({ position }) => covariance(place, position)))
  const solved = toReadings.map((row) => solvedBy(lower, row))
  const dot = (one: ArrayLike<number>, other: ArrayLike<number>) =>
    Array.from(one).reduce((sum, each, index) => sum + each * other[index]!, 0)
  return {
    mean: places.map((place, index) => typicalDb[place]! + dot(toReadings[index]!, off)),
    covariance: places.map((one, row) =>
      Float64Array.from(
        places,
        (other, column) =>
          covariance(one, other) -
          dot(toReadings[row]!, solved[column]!) +
          (row === column ? roughDb ** 2 : 0),
      ),
    ),
  }
}

/** Leaves out, one after another, the reading that the others contradict most, while at least two others stand against it. */
function withoutOutliers(
  prior: LawPrior,
  covariance: Covariance,
  readings: readonly LawReading[],
): { kept: LawReading[]; outliers: Law['outliers'] } {
  let kept = readings.map((reading, index) => ({ reading, index }))
  const outliers: Law['outliers'] = []
  while (kept.length > 2) {
    const judged = kept.map(({ reading, index }) => {
      const others = kept.filter((each) => each.index !== index).map((each) => each.reading)
      const { mean, covariance: spread } = posteriorOf(prior, covariance, others, [reading.position])
      const offDb = reading.gainDb - mean[0]!
      const deviations =
        Math.abs(offDb) / Math.hypot(Math.sqrt(Math.max(0, spread[0]![0]!)), reading.toleranceDb)
      // one that falls against two others that do not fall against each other is wrong, however wide the belief
      const falls = others.filter((other) => fallsAgainst(reading, other)).length
      return { index, offDb, worth: falls > 1 ? Infinity : deviations }
    })
    const worst = judged.reduce((one, other) => (other.worth > one.worth ? other : one))
    if (worst.worth < outlierAt) break
    outliers.push({ reading: worst.index, offDb: worst.offDb })
    kept = kept.filter(({ index }) => index !== worst.index)
  }
  return { kept: kept.map(({ reading }) => reading), outliers }
}

/** Whether of two readings the gain is less where the control is set higher, by more than their tolerances. */
function fallsAgainst(one: LawReading, other: LawReading): boolean {
  const [low, high] = one.position < other.position ? [one, other] : [other, one]
  return low.gainDb - high.gainDb > fallsAt * Math.hypot(low.toleranceDb, high.toleranceDb)
}

function contradictionsIn(readings: readonly LawReading[], left: ReadonlySet<number>): [number, number][] {
  return readings.flatMap((one, index) =>
    readings.flatMap((other, at): [number, number][] =>
      at > index && !left.has(index) && !left.has(at) && fallsAgainst(one, other) ? [[index, at]] : [],
    ),
  )
}

/** Mean, and the width within which 95 of 100 draws lie. */
function pointOf(all: number[]): LawPoint {
  const sorted = all.sort((one, other) => one - other)
  const gainDb = sorted.reduce((sum, each) => sum + each, 0) / sorted.length
  const lowDb = sorted[Math.floor(0.025 * sorted.length)]!
  const highDb = sorted[Math.ceil(0.975 * sorted.length) - 1]!
  return { gainDb, lowDb, highDb, toleranceDb: (highDb - lowDb) / 2 }
}

function between(places: readonly number[], points: readonly LawPoint[], position: number): LawPoint {
  const after = places.findIndex((place) => place >= position)
  const [there, before] = [points[after]!, points[after - 1]]
  if (!before || places[after] === position) return there
  const share = (position - places[after - 1]!) / (places[after]! - places[after - 1]!)
  const mix = (from: number, to: number) => from + share * (to - from)
  return {
    gainDb: mix(before.gainDb, there.gainDb),
    toleranceDb: mix(before.toleranceDb, there.toleranceDb),
    lowDb: mix(before.lowDb, there.lowDb),
    highDb: mix(before.highDb, there.highDb),
  }
}

/** The position whose reading would narrow the law most, of those that may be asked; undefined when all is sure enough. */
export function nextPosition(
  { points }: Law,
  within: { from: number; to: number },
  enoughDb: number,
): number | undefined {
  let widest: number | undefined
  for (let position = within.from; position <= within.to; position++)
    if (widest === undefined || points[position]!.toleranceDb > points[widest]!.toleranceDb) widest = position
  return widest !== undefined && points[widest]!.toleranceDb > enoughDb ? widest : undefined
}
