import { choleskyOf, drawn, type Matrix } from './gaussian'

/** A belief about some unknowns: a normal distribution with constraints. */
export interface Belief {
  mean: Float64Array
  covariance: Matrix
  /** A constraint on the unknowns: negative where it holds, dB beyond the edge where it does not. */
  edges: ((unknowns: Float64Array) => number)[]
}

/** Factor by which stated tolerances are widened at the start, since they are guesses too. */
const doubt = 1.25

/** Nothing is known but how far each unknown is usually off: a standard deviation of 1, taken somewhat wider. */
export const beliefBefore = (size: number): Belief => ({
  mean: new Float64Array(size),
  covariance: Array.from({ length: size }, (_, row) =>
    Float64Array.from({ length: size }, (_each, column) => (row === column ? doubt ** 2 : 0)),
  ),
  edges: [],
})

/** A measurement, and its prediction from the unknowns. */
export interface Measured {
  value: number
  toleranceDb: number
  predicted: (unknowns: Float64Array) => number
}

const slopeStep = 0.05
const rounds = 2

/**
 * The belief after some measurements: an extended Kalman filter, one measurement at a time, each made linear twice around
 * the newest mean (Bell and Cathey 1993).
 */
export function updated(belief: Belief, measurements: readonly Measured[]): Belief {
  const mean = belief.mean.slice()
  const covariance = belief.covariance.map((row) => row.slice())
  for (const { value, toleranceDb, predicted } of measurements) {
    const before = mean.slice()
    let gain: Float64Array = new Float64Array(mean.length)
    let slopes: Float64Array = gain
    for (let round = 0; round < rounds; round++) {
      slopes = slopesAt(mean, predicted)
      const toUnknowns = covariance.map((row) => dot(row, slopes))
      const spread = dot(toUnknowns, slopes) + toleranceDb ** 2
      gain = Float64Array.from(toUnknowns, (each) => each / spread)
      // the linearisation at the newest mean, evaluated at the start
      const back = dot(
        slopes,
        mean.map((each, index) => before[index]! - each),
      )
      const miss = value - predicted(mean) - back
      for (let index = 0; index < mean.length; index++) mean[index] = before[index]! + gain[index]! * miss
    }
    const passed = covariance.map((row) => dot(row, slopes))
    for (let row = 0; row < mean.length; row++)
      for (let column = 0; column < mean.length; column++)
        covariance[row]![column]! -= gain[row]! * passed[column]!
  }
  return { ...belief, mean, covariance }
}

function slopesAt(mean: Float64Array, predicted: Measured['predicted']): Float64Array {
  const here = predicted(mean)
  const moved = mean.slice()
  return mean.map((each, index) => {
    moved[index] = each + slopeStep
    const slope = (predicted(moved) - here) / slopeStep
    moved[index] = each
    return slope
  })
}

const dot = (one: ArrayLike<number>, other: ArrayLike<number>): number => {
  let sum = 0
  for (let index = 0; index < one.length; index++) sum += one[index]! * other[index]!
  return sum
}

/** Softness of the edge at a ceiling, dB: no clip shows exactly whether it was pressed. */
const edgeDb = 0.6

/** Unknowns drawn from a belief, each with a weight by how well it keeps the edges; the weights add up to 1. */
export function drawsOf(
  belief: Belief,
  count: number,
  normal: () => number,
): { draws: Float64Array[]; weights: Float64Array } {
  const lower = choleskyOf(belief.covariance)
  const draws = Array.from({ length: count }, () => {
    const off = drawn(lower, normal)
    return off.map((each, index) => each + belief.mean[index]!)
  })
  const weights = Float64Array.from(draws, (draw) =>
    belief.edges.reduce((weight, edge) => weight * Math.exp(-((Math.max(0, edge(draw)) / edgeDb) ** 2)), 1),
  )
  const total = weights.reduce((sum, each) => sum + each, 0)
  // where hardly any draw keeps the edges, the belief is wrong somewhere: all of them count
  return { draws, weights: total > 1e-6 ? weights.map((each) => each / total) : weights.fill(1 / count) }
}
