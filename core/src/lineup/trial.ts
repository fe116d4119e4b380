import { normal, random } from '../signals'
import { type Belief, beliefBefore, drawsOf, type Measured, updated } from './belief'
import type { TrialModel, TrialOutcome } from './trial-model'

/** Readings of a trial clip. Levels in dBFS. */
export interface TrialClip {
  setting: number
  levelDbfs: number | null
  noiseDbfs: number | null
  /** Level at which crests were clipped; null if none were. */
  ceilingDbfs: number | null
}

/** State of a trial: clips, belief, and conclusions. */
export interface Trial {
  clips: TrialClip[]
  belief: Belief
  /** The setting to use, as far as is known. */
  best: number
  /** How much better another one may be on the average, dB, and the chance that it is more than 1 dB. */
  regretDb: number
  chance: number
  /** The setting to record next; undefined: the rest would not change the answer. */
  next: number | undefined
  /** Expected speech-to-noise less the cost of overloads, at each setting, dB. */
  worthDb: Float64Array
}

const draws = 120
/** Draws that are taken for the truth in turn, to see what the next clip would decide. */
const truths = 20
/** Uncertainty of the figures of a voice clip, one standard deviation, dB: nobody says a line the same way twice. */
const levelDb = 1
const noiseDb = 0.8
const ceilingDb = 0.6
/** A loudest moment this far above a ceiling is visibly clipped, dB. */
const seenDb = 0.5
/** Cost of each dB into the margin, and of each beyond the ceiling. */
const marginCost = 1
const overloadCost = 4
/** Expected regret at which the answer stands, dB: it is then probably within a decibel of the best. */
const enoughRegretDb = 0.2
const enoughChance = 0.03
const worthAskingDb = 0.02
const mostClips = 6

/** Score of a setting, dB: speech-to-noise less the cost of overload or lost margin. */
export function worthOf({ levelDbfs, noiseDbfs, overDb }: TrialOutcome, marginDb: number): number {
  let over = -Infinity
  for (const each of overDb) over = Math.max(over, each)
  const cost =
    marginCost * Math.min(marginDb, Math.max(0, over + marginDb)) + overloadCost * Math.max(0, over)
  return levelDbfs - noiseDbfs - cost
}

export const trialBegun = (model: TrialModel, seed: number): Trial =>
  weighed(model, [], beliefBefore(model.unknowns.length), seed)

/** The trial with one more clip. Deterministic: the same clips and seed give the same answer. */
export function trialAfter(
  model: TrialModel,
  { clips, belief }: Trial,
  clip: TrialClip,
  seed: number,
): Trial {
  return weighed(model, [...clips, clip], believedAfter(model, belief, clip), seed)
}

function believedAfter(model: TrialModel, belief: Belief, clip: TrialClip): Belief {
  const at = (unknowns: Float64Array) => model.outcome(unknowns, clip.setting)
  const measured: Measured[] = []
  if (clip.levelDbfs !== null)
    measured.push({
      value: clip.levelDbfs,
      toleranceDb: levelDb,
      predicted: (unknowns) => at(unknowns).levelDbfs,
    })
  if (clip.noiseDbfs !== null)
    measured.push({
      value: clip.noiseDbfs,
      toleranceDb: noiseDb,
      predicted: (unknowns) => at(unknowns).noiseDbfs,
    })
  const after = updated(belief, measured)
  if (clip.ceilingDbfs === null)
    return { ...after, edges: [...after.edges, (unknowns) => Math.max(...at(unknowns).overDb) - seenDb] }
  // which ceiling it was: the one that comes nearest to where the crests end
  const { inFileDbfs } = at(after.mean)
  const which = nearest(inFileDbfs, clip.ceilingDbfs)
  if (which < 0) return after
  const met = updated(after, [
    {
      value: clip.ceilingDbfs,
      toleranceDb: ceilingDb,
      predicted: (unknowns) => at(unknowns).inFileDbfs[which]!,
    },
  ])
  return { ...met, edges: [...met.edges, (unknowns) => seenDb - at(unknowns).overDb[which]!] }
}

function nearest(values: Float64Array, wanted: number): number {
  let best = -1
  values.forEach((value, index) => {
    if (best < 0 || Math.abs(value - wanted) < Math.abs(values[best]! - wanted)) best = index
  })
  return best
}

/** Expected score of every setting, and the most informative next clip. */
function weighed(model: TrialModel, clips: TrialClip[], belief: Belief, seed: number): Trial {
  const drawnNow = drawsOf(belief, draws, normal(random(seed + clips.length)))
  const outcomes = drawnNow.draws.map((draw) =>
    model.settings.map((_, setting) => model.outcome(draw, setting)),
  )
  const worth = outcomes.map((row) => Float64Array.from(row, (each) => worthOf(each, model.marginDb)))
  const { weights } = drawnNow
  const { best: ahead, mean } = bestBy(worth, weights)
  const best = heardBefore(clips, mean, ahead)
  const most = worth.map((row) => Math.max(...row))
  let regretDb = 0
  let chance = 0
  worth.forEach((row, draw) => {
    const regret = most[draw]! - row[best]!
    regretDb += weights[draw]! * regret
    if (regret > 1) chance += weights[draw]!
  })
  const done = (regretDb < enoughRegretDb && chance < enoughChance) || clips.length >= mostClips
  const tried = clips.map(({ setting }) => setting)
  // an answer that was not heard yet is heard before it counts
  const unheard = clips.length < mostClips && !tried.includes(best) ? best : undefined
  const next = done
    ? unheard
    : (nextClip(
        outcomes.map((row) => row.map(shownBy)),
        worth,
        weights,
        { regretDb, tried },
      ) ?? unheard)
  return {
    clips,
    belief,
    best,
    regretDb,
    chance,
    next: clips.length === 0 ? (next ?? best) : next,
    worthDb: mean,
  }
}

/** Settings whose scores differ by less are equally good, dB. */
const sameDb = 0.3

/** Of equally good settings, one that was recorded without clipping, if there is one. */
function heardBefore(clips: readonly TrialClip[], mean: Float64Array, best: number): number {
  const heard = clips.flatMap(({ setting, ceilingDbfs }) =>
    ceilingDbfs === null && mean[setting]! > mean[best]! - sameDb ? [setting] : [],
  )
  return heard.length ? heard.reduce((one, other) => (mean[other]! > mean[one]! ? other : one)) : best
}

/** The setting of the greatest worth on the average. */
function bestBy(
  worth: readonly Float64Array[],
  weights: ArrayLike<number>,
): { best: number; mean: Float64Array } {
  const count = worth[0]!.length
  const mean = new Float64Array(count)
  for (let draw = 0; draw < worth.length; draw++) {
    const weight = weights[draw]!
    if (weight === 0) continue
    const row = worth[draw]!
    for (let setting = 0; setting < count; setting++) mean[setting]! += weight * row[setting]!
  }
  let best = 0
  for (let setting = 1; setting < count; setting++) if (mean[setting]! > mean[best]!) best = setting
  return { best, mean }
}

/**
 * The setting whose clip leaves the least regret on the average: some draws are taken for the truth in turn, the others
 * weighed by how likely they make what that clip would show.
 */
function nextClip(
  shown: readonly Shown[][],
  worth: readonly Float64Array[],
  weights: Float64Array,
  { regretDb, tried }: { regretDb: number; tried: readonly number[] },
): number | undefined {
  const likely = [...weights.keys()].sort((one, other) => weights[other]! - weights[one]!).slice(0, truths)
  let best: number | undefined
  let least = regretDb - worthAskingDb
  for (let setting = 0; setting < worth[0]!.length; setting++) {
    let regret = 0
    let total = 0
    for (const truth of likely) {
      const seen = shown[truth]![setting]!
      const posterior = weights.map((weight, draw) => weight * likeness(shown[draw]![setting]!, seen))
      const { best: chosen } = bestBy(worth, posterior)
      regret += weights[truth]! * (Math.max(...worth[truth]!) - worth[truth]![chosen]!)
      total += weights[truth]!
    }
    const expected = regret / Math.max(1e-12, total)
    // a second clip at the same setting says less
    const again = tried.includes(setting) ? worthAskingDb : 0
    if (expected + again < least) {
      least = expected + again
      best = setting
    }
  }
  return best
}

/** Readings that a clip would show for an outcome. */
interface Shown {
  levelDbfs: number
  noiseDbfs: number
  pressedDbfs: number | undefined
}
const shownBy = (outcome: TrialOutcome): Shown => ({
  levelDbfs: outcome.levelDbfs,
  noiseDbfs: outcome.noiseDbfs,
  pressedDbfs: pressedAt(outcome),
})

/** Where one says pressed and the other does not, a clip near the edge may still be either. */
const eitherWay = Math.log(50)

/** How well one outcome fits what another would show. */
function likeness(one: Shown, seen: Shown): number {
  const level = (one.levelDbfs - seen.levelDbfs) / levelDb
  const noise = (one.noiseDbfs - seen.noiseDbfs) / noiseDb
  const [mine, theirs] = [one.pressedDbfs, seen.pressedDbfs]
  const pressed =
    mine === undefined || theirs === undefined
      ? Number(mine !== theirs) * eitherWay
      : ((mine - theirs) / ceilingDb) ** 2 / 2
  return Math.exp(-(level * level + noise * noise) / 2 - pressed)
}

/** Where the crests of an outcome are pressed: at the ceiling that is passed most. */
export function pressedAt({ overDb, inFileDbfs }: TrialOutcome): number | undefined {
  let most = seenDb
  let at: number | undefined
  for (let index = 0; index < overDb.length; index++)
    if (overDb[index]! > most) {
      most = overDb[index]!
      at = inFileDbfs[index]!
    }
  return at
}
