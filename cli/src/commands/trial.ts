import { applyEdits } from '@iron-hush/core/edits'
import { type Device, soundOfStep, standInDevice, standInsOf } from '@iron-hush/core/devices'
import {
  type Bench,
  benchOf,
  clipReadingOf,
  type Setting,
  newReading,
  settingsFor,
  trialBasis,
  trialId,
  trialOfScene,
  trialSetting,
} from '@iron-hush/core/lineup'
import { bytesSource } from '@iron-hush/core/media'
import {
  known,
  type LineUpReading,
  type Patch,
  trackKey,
  Refusal,
  type Shelf,
  type TrialAnswer,
  uuidv7,
} from '@iron-hush/core/model'
import { settingAnswer } from '@iron-hush/core/report'
import { worstRatioName } from '@iron-hush/core/words'
import { readPatch, readStandIns } from '../input'
import type { Options } from '../options'
import type { Shell } from '../shell'
import { trialText } from '../text'

/** A trial under the real noise, with a stand-in for the box that records. */
export function trialCommand(shell: Shell): void {
  shell
    .onPatch('trial', 'which setting to use under the real noise, found in a few clips of a stand-in device')
    .requiredOption('--device <name>', 'the stand-in that records, by its id, or the box that it stands for')
    .option(
      '--run <id>',
      'the run that is tried, as hush levels lists it; the first that needs it if left out',
    )
    .action(async (file: string, options: Options & { device: string; run?: string }) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const devices = await readStandIns()
      const box = boxOfDevice(patch, shelf, devices, options.device)
      const run = options.run ?? runOf(benchOf(patch, shelf), box)
      const device = standInDevice(patch, shelf, devices, box)
      const ratio = worstRatioName(patch.brief.sources.filter(({ id }) => run.startsWith(`${id}>`)))
      const found = await tried(patch, shelf, device, { box, run })
      shell.say.log(options.json ? JSON.stringify(found, null, 2) : trialText(found, ratio))
    })
}

function boxOfDevice(
  patch: Patch,
  shelf: Shelf,
  devices: Parameters<typeof standInsOf>[2],
  wanted: string,
): string {
  const here = [...standInsOf(patch, shelf, devices)]
  const found = here.find(([box, { id, name }]) => [box, id, name].includes(wanted))
  if (found) return found[0]
  const offered = here.map(([box, { id }]) => `${id} (${box})`).join(', ')
  throw new Refusal(
    offered
      ? `"${wanted}" is not a stand-in of this scene. There are: ${offered}.`
      : `No box of ${patch.name} has a stand-in device: a trial needs one here. On Line-up, real clips can be dropped.`,
  )
}

function runOf({ levels }: Bench, box: string): string {
  const found = levels.runs.find(
    ({ end, stop, spill }) => end.box === box && end.kind === 'recording' && !stop && !spill,
  )
  if (!found) throw new Refusal(`Nothing arrives at "${box}" in this scene: there is nothing to try.`)
  return found.id
}

/** Records at the settings that the trial asks for until its answer is known. */
async function tried(
  patch: Patch,
  shelf: Shelf,
  device: Device,
  { box, run }: { box: string; run: string },
): Promise<TrialAnswer> {
  let now = patch
  const clips: TrialAnswer['clips'] = []
  for (;;) {
    const bench = benchOf(now, shelf)
    const trial = trialOfScene(bench, run)
    if (!trial)
      throw new Refusal(
        `"${run}" cannot be tried: it is not a run of ${patch.name}, has no level control, or sets its own level.`,
      )
    const set = trialSetting(trial)
    if (trial.trial.next === undefined)
      return {
        format: 'iron-hush/trial',
        version: 1,
        patch: patch.name,
        run,
        device: device.id,
        standIn: true,
        clips,
        use: set.map(settingAnswer),
        regretDb: trial.trial.regretDb,
      }
    const reading = await recorded(bench, device, { box, run }, set, clips.length)
    clips.push(clipAnswer(set, reading.result))
    now = applyEdits(now, [{ kind: 'keep reading', id: reading.id, reading }], shelf)
  }
}

/** One clip of the device with the controls as the trial asks, as a reading of the scene. */
async function recorded(
  bench: Bench,
  device: Device,
  { box, run }: { box: string; run: string },
  set: readonly Setting[],
  index: number,
): Promise<LineUpReading> {
  const track = trackKey(
    known(
      bench.levels.runs.find(({ id }) => id === run),
      run,
    ).end,
  )
  const step = {
    id: trialId(run),
    basis: trialBasis(bench, run),
    kind: 'trial' as const,
    box,
    set: [...set],
    expect: { kind: 'trial' as const, track },
  }
  const clip = await device.record({
    box,
    settings: settingsFor(bench, set),
    sound: soundOfStep(step),
  })
  const channel = Math.max(0, clip.tracks.indexOf(track))
  const result = await clipReadingOf(bytesSource(clip.bytes), clip.name, channel, step)
  return newReading(bench, step, result, {
    id: uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
    at: new Date(Date.now() + index).toISOString(),
  })
}

function clipAnswer(set: readonly Setting[], result: LineUpReading['result']): TrialAnswer['clips'][number] {
  const clip = result.kind === 'clip' ? result : undefined
  const [speech, noise] = [clip?.speechDbfsA ?? null, clip?.noiseDbfsA ?? null]
  return {
    set: set.map(settingAnswer),
    speechToNoiseDb: speech === null || noise === null ? null : speech - noise,
    overloads: clip !== undefined && (clip.atFullScale || clip.ceilingDbfs !== null),
  }
}
