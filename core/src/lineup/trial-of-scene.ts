import type { LineUpReading } from '../model'
import { basisOf } from './basis'
import { type Bench, boxesFrom, identityOf, placedBox } from './bench'
import { type Draft, type Setting } from './step'
import { type Trial, trialAfter, trialBegun, type TrialClip } from './trial'
import { type TrialModel, trialModelOf } from './trial-model'

/** The trial of a run as the clips that were kept for it leave it. */
export interface SceneTrial {
  model: TrialModel
  trial: Trial
  readings: LineUpReading[]
}

const seed = 5
/** A place louder than this below the voice calls for a trial, dB: its real noise decides. */
const loudPlaceDb = 26

export const trialId = (run: string): string => `trial ${run}`

/** The trial of a run, with every clip that was recorded for it with this chain; undefined where none can be made. */
export function trialOfScene(bench: Bench, run: string): SceneTrial | undefined {
  const model = trialModelOf(bench, run)
  if (!model) return undefined
  const basis = trialBasis(bench, run)
  const readings = bench.patch.lineUp.filter(
    ({ step, basis: of, result }) => step === trialId(run) && of === basis && result.kind === 'clip',
  )
  const trial = readings.reduce(
    (before, reading) => {
      const clip = clipOf(model, reading)
      return clip ? trialAfter(model, before, clip, seed) : before
    },
    trialBegun(model, seed),
  )
  return { model, trial, readings }
}

/** A reading as a clip of the trial, at the setting that it was recorded at; undefined where that is none of them. */
function clipOf(model: TrialModel, { settings, result }: LineUpReading): TrialClip | undefined {
  const setting = model.settings.findIndex((each) =>
    each.every(({ box, control, position }) => settings[`${box}.${control}`] === position),
  )
  if (setting < 0 || result.kind !== 'clip') return undefined
  const { speechDbfsA, noiseDbfsA, ceilingDbfs, atFullScale } = result
  return {
    setting,
    levelDbfs: withoutNoise(speechDbfsA, noiseDbfsA),
    noiseDbfs: noiseDbfsA,
    ceilingDbfs: atFullScale ? 0 : ceilingDbfs,
  }
}

/** Level of a voice without the noise that it was measured with; null where the noise leaves nothing of it. */
function withoutNoise(speechDb: number | null, noiseDb: number | null): number | null {
  if (speechDb === null) return null
  const power = 10 ** (speechDb / 10) - (noiseDb === null ? 0 : 10 ** (noiseDb / 10))
  return power > 0 ? 10 * Math.log10(power) : null
}

/** What a trial depends on: the chain and its sources, whatever the positions of its controls. */
export function trialBasis({ patch, levels, shelf, graph }: Bench, runId: string): string {
  const run = levels.runs.find(({ id }) => id === runId)
  const boxes = new Set(run ? boxesFrom(run.points, patch) : [])
  const bench = { patch, shelf, graph }
  return basisOf([
    runId,
    [...boxes].map((id) => identityOf(placedBox(bench, id).gear)),
    patch.links.filter(({ to }) => boxes.has(to.box)).map(({ pieces }) => pieces.map(({ gear }) => gear)),
    run?.atSource.loudest,
    run?.atSource.placeNoise,
  ])
}

/** A step for each run whose place is loud enough to decide. */
export function trialSteps(bench: Bench): Draft[] {
  const seen = new Set<string>()
  return bench.levels.runs.flatMap((run): Draft[] => {
    const { end, stop, spill, source, entry } = run
    if (end.kind !== 'recording' || end.gearKind === 'radio' || stop || spill || end.aim.lowerDb > 0)
      return []
    const key = `${source.id} ${entry.part} ${end.box}`
    if (run.speechToNoiseDb > loudPlaceDb || seen.has(key) || !trialModelOf(bench, run.id)) return []
    seen.add(key)
    return [
      {
        id: trialId(run.id),
        basis: trialBasis(bench, run.id),
        kind: 'trial',
        box: end.box,
        boxName: end.boxName,
        set: [],
        expect: { kind: 'trial', track: `${end.box}.${end.track}` },
        run: run.id,
        source,
      },
    ]
  })
}

/** The setting that is asked for next, or once that is known the one to use. */
export const trialSetting = ({ model, trial }: SceneTrial): Setting[] =>
  model.settings[trial.next ?? trial.best]!
