import { applyEdits } from '../edits'
import {
  type ClipReading,
  type GivenReading,
  type LineUpReading,
  type Patch,
  type Position,
  type ReadingResult,
  Refusal,
  type Shelf,
} from '../model'
import { type Bench, benchOf, placedBox } from './bench'
import { channelOf, newReading, type ReadingStamp } from './new-reading'
import { type LineUpStep, settingOf } from './step'
import { lineUpSteps } from './steps'
import { trialOfScene, trialSetting } from './trial-of-scene'

/** How a clip that a reading names is read. */
export type ReadClip = (file: string, channel: number, step: LineUpStep) => Promise<ClipReading>

/** New data of readings: time of reading, and unused ids. */
export interface ReadingIds {
  at: string
  id: () => string
}

/**
 * A scene with readings from a file, one after another: what one says decides what the next is asked.
 *
 * @throws Refusal for a step that is none of this scene's
 */
export async function withReadings(
  patch: Patch,
  shelf: Shelf,
  readings: readonly GivenReading[],
  readClip: ReadClip,
  fresh: ReadingIds,
): Promise<Patch> {
  let now = patch
  for (const [index, given] of readings.entries()) {
    const bench = benchOf(now, shelf)
    const step = stepNamed(bench, given.step)
    const reading = await readingOf(bench, step, given, readClip, {
      id: fresh.id(),
      // in the order of the file, also where no time is given
      at: given.at ?? new Date(Date.parse(fresh.at) + index).toISOString(),
    })
    now = applyEdits(now, [{ kind: 'keep reading', id: reading.id, reading }], shelf)
  }
  return now
}

/** A step by its id; a level read at a position that is not asked for is welcome too. */
export function stepNamed(bench: Bench, id: string): LineUpStep {
  const steps = lineUpSteps(bench)
  const found = steps.find((step) => step.id === id)
  if (found) return found.kind === 'trial' ? atTrial(bench, found) : found
  const [, box = '', control = '', position = ''] = /^tone (\S+) (\S+) (\S+)$/.exec(id) ?? []
  const like = steps.find(
    (step) => step.kind === 'tone' && step.box === box && step.set[0]?.control === control,
  )
  const known = like && placedBox(bench, box).gear.controls.find((each) => each.id === control)
  if (like && known) {
    const at: Position = known.kind === 'switch' ? position : Number(position)
    return { ...like, id, set: [settingOf(bench, box, control, at)], reading: undefined }
  }
  throw new Refusal(
    `"${id}" is not a step of this line-up. There are: ${steps.map((step) => step.id).join('; ')}.`,
  )
}

const atTrial = (bench: Bench, step: LineUpStep): LineUpStep => {
  const trial = trialOfScene(bench, step.run ?? '')
  return trial ? { ...step, set: trialSetting(trial) } : step
}

async function readingOf(
  bench: Bench,
  step: LineUpStep,
  given: GivenReading,
  readClip: ReadClip,
  stamp: ReadingStamp,
): Promise<LineUpReading> {
  const result = await resultOf(bench, step, given, readClip)
  const reading = newReading(bench, step, result, stamp, given.playedDbfs)
  return { ...reading, settings: { ...reading.settings, ...given.settings } }
}

async function resultOf(
  bench: Bench,
  step: LineUpStep,
  { seen, levelDbfs, mark, moved, clip, channel }: GivenReading,
  readClip: ReadClip,
): Promise<ReadingResult> {
  if (clip !== undefined)
    return readClip(clip, channel === undefined ? channelOf(bench, step) : channel - 1, step)
  if (levelDbfs !== undefined) return { kind: 'level', levelDbfs }
  if (mark !== undefined) return { kind: 'mark', mark }
  if (moved !== undefined) return { kind: 'channels', moved }
  if (seen) return { kind: 'seen' }
  throw new Refusal(`The reading of "${step.id}" is empty.`)
}
