import { describe, expect, it } from 'vitest'
import { asSet, graphOf } from '../chain'
import { applyEdits, type Edit } from '../edits'
import { levelsOfPatch } from '../levels'
import { measureClip } from '../measure'
import { bytesSource, wavBytes } from '../media'
import { type ChannelMeasurement, known, type Patch, withDistance } from '../model'
import { render, voiceOf } from '../render'
import { scene, shelf } from '../tests/demo'
import { cases, isLong } from '../tests/form'
import { explanationsOf } from './explanations'

const patch = scene('1-the-founder-at-the-bench')
const runOf = (of: Patch) =>
  known(
    levelsOfPatch(of, shelf).runs.find(({ end }) => end.box === 'recorder' && end.kind === 'recording'),
    'the recording of the recorder',
  )

const clips = new Map<string, Promise<ChannelMeasurement>>()
/** The clip of one truth and seed is made once. */
function recorded(edits: Edit[], seed: number): Promise<ChannelMeasurement> {
  const key = JSON.stringify([edits, seed])
  const clip = clips.get(key) ?? recording(edits, seed)
  clips.set(key, clip)
  return clip
}
/** What really happened: the patch with another truth, rendered as it would have been recorded and measured as a clip. */
async function recording(edits: Edit[], seed: number): Promise<ChannelMeasurement> {
  const graph = graphOf(applyEdits(patch, edits, shelf), shelf)
  const { end } = runOf(patch)
  const track = known(
    graph.ends.find(
      ({ box, stage }) => box === end.box && stage.kind === 'recording' && stage.track === end.track,
    ),
    'the track',
  )
  const rateHz = 48_000
  const frames = cases(16, 10) * rateHz
  const samples = new Float32Array(frames)
  const voice = (source: Parameters<typeof voiceOf>[0]) => voiceOf(source, rateHz, seed)
  for (const { fromFrame, tracks } of render(graph, asSet(graph), {
    rateHz,
    frames,
    seed,
    voice,
    noise: true,
    ambience: true,
  }))
    samples.set(known(tracks.get(track), 'its samples'), fromFrame)
  const found = await measureClip(bytesSource(wavBytes([samples], rateHz)), 'clip.wav')
  return known(found, 'a measurement').channels[0]!
}

const { noises, sources } = patch.brief
const nearer = withDistance(patch.brief, 'boom', 'founder', 0.2)
const louder = sources.map((source) =>
  source.kind === 'line'
    ? source
    : {
        ...source,
        levelsDba: {
          quietest: source.levelsDba.quietest + 8,
          typical: source.levelsDba.typical + 8,
          loudest: source.levelsDba.loudest + 8,
        },
      },
)
const noisier = noises.map((noise) => ({ ...noise, levelDba: 46 }))
const found = async (edits: Edit[]) => explanationsOf(await recorded(edits, 1), runOf(patch), patch, shelf)

const otherwise: [string, Partial<Patch['brief']>][] = [
  ['nearer than planned', { places: nearer }],
  ['louder than planned', { sources: louder }],
]

describe('what explains a clip', () => {
  it.runIf(isLong)('is nothing when it came out as planned', async () => {
    for (const seed of [1, 2])
      expect(explanationsOf(await recorded([], seed), runOf(patch), patch, shelf)).toEqual([])
  })
  it.runIf(isLong).each(otherwise)(
    'is as well a louder voice as a smaller distance where one of them is so: %s',
    async (_, to) => {
      const [first, second, ...others] = await found([{ kind: 'change brief', to }])
      expect(new Set([first!.cause.kind, second!.cause.kind])).toEqual(new Set(['voice', 'distance']))
      expect(first!.belief - second!.belief).toBeLessThan(0.15)
      expect(first!.belief + second!.belief).toBeGreaterThan(0.85)
      expect(others.length).toBeLessThan(3)
      // 0.2 m instead of 0.45, or 8 dB, as the truth is
      for (const { cause } of [first!, second!]) {
        if (cause.kind === 'voice') expect(Math.abs(cause.byDb - 7)).toBeLessThanOrEqual(1.5)
        if (cause.kind === 'distance') expect(Math.abs(cause.distanceM / 0.2 - 1)).toBeLessThan(0.2)
      }
    },
  )
  it.runIf(isLong)('is the noise of the place, which it names with its level', async () => {
    const [first] = await found([{ kind: 'change brief', to: { noises: noisier } }])
    expect(first!.belief).toBeGreaterThan(0.8)
    expect(first!.cause).toMatchObject({ kind: 'place noise', noise: 'fans', plannedDba: 34 })
    expect(Math.abs((first!.cause as { levelDba: number }).levelDba - 46)).toBeLessThanOrEqual(2)
  })
  it('is a control that stood elsewhere, and taking it over explains the clip', async () => {
    const truth: Edit = { kind: 'set control', part: 'recorder', control: 'gain-1', position: 24 }
    const [first] = await found([truth])
    expect(first!.belief).toBeGreaterThan(0.6)
    expect(first!.cause).toMatchObject({
      kind: 'control',
      part: 'recorder',
      control: 'gain-1',
      plannedName: '34 dB',
    })
    expect(Math.abs(Number((first!.cause as { position: number }).position) - 24)).toBeLessThanOrEqual(2)
    const taken = applyEdits(patch, first!.edits, shelf)
    expect(explanationsOf(await recorded([truth], 1), runOf(taken), taken, shelf)).toEqual([])
  })
  it.runIf(isLong)('is a box that hisses where no place does', async () => {
    const silent = { ...patch, brief: { ...patch.brief, noises: [] } }
    const run = runOf(silent)
    const clip = await recorded([], 1)
    const measured = {
      ...clip,
      speechDbfsA: run.typicalDb,
      peakDbfs: run.peakDb,
      noiseDbfsA: run.noiseWithPlaceDb + 6,
    }
    const [first] = explanationsOf(measured, run, silent, shelf)
    expect(first!.cause.kind).toBe('box noise')
    expect(first!.edits).toEqual([])
  })
})
