import { readFileSync } from 'node:fs'
import { applyEdits } from '../edits'
import { type Device, soundOfStep, standInDevice } from '../devices'
import {
  benchOf,
  clipReadingOf,
  type LineUpStep,
  lineUpSteps,
  newReading,
  settingsFor,
  trackOf,
} from '../lineup'
import { bytesSource } from '../media'
import { parseJson, type Patch, StandInFile } from '../model'
import { shelf } from './demo'

/** The stand-ins that ship. */
export const standIns = parseJson(
  StandInFile,
  readFileSync(new URL('../../../demo/stand-ins.json', import.meta.url), 'utf8'),
  'stand-ins',
).devices

let count = 0
const uuid = () => `00000000-0000-7000-8000-${String(++count).padStart(12, '0')}`

/** Keeps what a stand-in records for a step. */
export async function stepRecorded(patch: Patch, step: LineUpStep, device: Device): Promise<Patch> {
  const bench = benchOf(patch, shelf)
  const clip = await device.record({
    box: step.box,
    settings: settingsFor(bench, step.set),
    sound: soundOfStep(step),
  })
  const channel = Math.max(0, clip.tracks.indexOf(trackOf(step)))
  const result = await clipReadingOf(bytesSource(clip.bytes), clip.name, channel, step)
  const at = new Date(Date.UTC(2026, 2, 14, 14, 0, count)).toISOString()
  const reading = newReading(bench, step, result, { id: uuid(), at })
  return applyEdits(patch, [{ kind: 'keep reading', id: reading.id, reading }], shelf)
}

/** Does every step of some kinds in a box that is not done yet, until none is left. */
export async function linedUp(
  patch: Patch,
  box: string,
  kinds: readonly LineUpStep['kind'][],
): Promise<Patch> {
  let now = patch
  for (let round = 0; round < 20; round++) {
    const step = lineUpSteps(benchOf(now, shelf)).find(
      (each) => each.box === box && kinds.includes(each.kind) && !each.reading,
    )
    if (!step) return now
    now = await stepRecorded(now, step, standInDevice(now, shelf, standIns, box, round))
  }
  throw new Error('The line-up never ends.')
}
