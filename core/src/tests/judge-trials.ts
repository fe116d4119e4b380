import { normal, random } from '../signals'
import { pressedAt, trialAfter, trialBegun, type TrialClip, worthOf } from '../lineup'
import type { TrialModel } from '../lineup'

/** How trials came out on hidden boxes, beside a plain ladder. */
export interface TrialJudgement {
  boxes: number
  /** Share of boxes on which the setting found is within 1 dB of the best. */
  within: number
  medianClips: number
  mostClips: number
  /** The same share for the best of ten clips at even steps. */
  ladderWithin: number
}

const clipSpread = { levelDb: 0.8, noiseDb: 0.6, ceilingDb: 0.4 }
const rungs = 10

/**
 * Tries the trial on boxes with hidden figures, drawn from the belief that it begins with, or from one so many times as
 * wide. The hidden figures are known only to the judge.
 */
export function judgeTrials(model: TrialModel, boxes: number, wider: number, seed: number): TrialJudgement {
  const next = normal(random(seed))
  const begun = trialBegun(model, seed)
  let within = 0
  let ladderWithin = 0
  const counts: number[] = []
  for (let box = 0; box < boxes; box++) {
    const hidden = Float64Array.from({ length: model.unknowns.length }, () => wider * next())
    const worth = model.settings.map((_, setting) => worthOf(model.outcome(hidden, setting), model.marginDb))
    const best = Math.max(...worth)
    const recorded = (setting: number): TrialClip => {
      const outcome = model.outcome(hidden, setting)
      const pressed = pressedAt(outcome)
      return {
        setting,
        levelDbfs: outcome.levelDbfs + clipSpread.levelDb * next(),
        noiseDbfs: outcome.noiseDbfs + clipSpread.noiseDb * next(),
        ceilingDbfs: pressed === undefined ? null : pressed + clipSpread.ceilingDb * next(),
      }
    }
    let trial = begun
    while (trial.next !== undefined) trial = trialAfter(model, trial, recorded(trial.next), box)
    if (worth[trial.best]! > best - 1) within++
    counts.push(trial.clips.length)
    if (worth[ladderBest(model, recorded)]! > best - 1) ladderWithin++
  }
  counts.sort((one, other) => one - other)
  return {
    boxes,
    within: within / boxes,
    medianClips: counts[Math.floor(boxes / 2)] ?? 0,
    mostClips: counts.at(-1) ?? 0,
    ladderWithin: ladderWithin / boxes,
  }
}

/** What a plain ladder finds: ten clips at even steps, and of those that are not pressed the one with the least noise under the voice. */
function ladderBest(model: TrialModel, recorded: (setting: number) => TrialClip): number {
  const every = (model.settings.length - 1) / (rungs - 1)
  const clips = Array.from({ length: rungs }, (_, rung) => recorded(Math.round(rung * every)))
  const clean = clips.filter(({ ceilingDbfs }) => ceilingDbfs === null)
  const ratio = ({ levelDbfs, noiseDbfs }: TrialClip) => (levelDbfs ?? 0) - (noiseDbfs ?? 0)
  const [best] = (clean.length ? clean : clips).sort((one, other) => ratio(other) - ratio(one))
  return best!.setting
}
