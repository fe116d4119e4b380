import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { balance, pricesOf } from '../balance'
import { channelsOf, levelsOfPatch, runsOfClip } from '../levels'
import { clipFindings, compareWithRun } from '../measure'
import { clipWords, comparisonHint } from '../words'
import { applyEdits } from '../edits'
import {
  BalanceAnswer,
  type ChannelMeasurement,
  floatingPcm,
  LevelsAnswer,
  MeasureAnswer,
  parseJson,
  Patch,
  ShelfFile,
  shelfOf,
} from '../model'
import { balanceAnswer, differencesOf, levelsAnswer, measureAnswer } from './index'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scenes = readdirSync(new URL('scenes/', demo)).map((file) =>
  parseJson(Patch, read(`scenes/${file}`), file),
)

const channel = (more: Partial<ChannelMeasurement> = {}): ChannelMeasurement => ({
  peakDbfs: -12,
  peakAtS: 1,
  rmsDbfs: -30,
  speechDbfsA: -28,
  noiseDbfsA: -70,
  pauses: true,
  truePeakDbtp: null,
  tone: null,
  ceilingDbfs: null,
  clipped: [],
  clippedMore: 0,
  worstPeak: [],
  levelsDbfsA: [],
  noiseBands: [],
  envelope: [],
  ...more,
})
const clip = (...channels: ChannelMeasurement[]) => ({
  format: 'iron-hush/measurement' as const,
  version: 1 as const,
  clip: 'a.wav',
  container: 'WAV',
  codec: 'PCM',
  bits: 24,
  rateHz: 48000,
  lengthS: 10,
  stream: { texts: [] },
  channels,
  loudness: null,
  faults: [],
  remarks: [],
})

describe('published answers', () => {
  it.each(scenes.map((patch) => [patch.name, patch] as const))(
    '%s comes back whole from JSON, through its schema',
    (_, patch) => {
      const answer = levelsAnswer(patch, levelsOfPatch(patch, shelf))
      expect(LevelsAnswer.parse(JSON.parse(JSON.stringify(answer)))).toEqual(answer)
      expect(JSON.stringify(answer)).not.toMatch(/Infinity|NaN/)
    },
  )
  it('has a balance that its schema describes', () => {
    const tuning = scenes[2]!
    const answer = balanceAnswer(tuning, balance(tuning, shelf)!, pricesOf(tuning, shelf))
    expect(BalanceAnswer.parse(JSON.parse(JSON.stringify(answer)))).toEqual(answer)
  })
  it('has a measurement with its findings', () => {
    const answer = measureAnswer(clip(channel()))
    expect(MeasureAnswer.parse(answer).findings).toEqual([])
  })
})

describe('findings in a clip', () => {
  const cut = (shape: 'flat at full scale' | 'flat below full scale') => ({
    fromS: 3.2,
    toS: 3.4,
    levelDbfs: -7.5,
    shape,
    samples: 40,
    confidence: 1,
  })
  it('tell a cut of the converter from one made before it', () => {
    const [atFullScale] = clipFindings(clip(channel({ clipped: [cut('flat at full scale')] })))
    expect(clipWords(atFullScale!).remedy).toMatch(/turn down what comes before it/)
    const [early] = clipFindings(
      clip(channel(), channel({ clipped: [cut('flat below full scale')], clippedMore: 2 })),
    )
    expect(early).toMatchObject({ severity: 'harmful', subject: { channel: 2 } })
    expect(clipWords(early!).what).toMatch(/in 3 places, first at 0:03\.2/)
    expect(clipWords(early!).remedy).toMatch(/the level here cannot fix it/)
  })
  it('name a dead channel and one that is far too low', () => {
    const silent = channel({
      peakDbfs: null,
      rmsDbfs: null,
      speechDbfsA: null,
      noiseDbfsA: null,
      pauses: false,
      truePeakDbtp: null,
      tone: null,
      ceilingDbfs: null,
    })
    expect(clipFindings(clip(silent))[0]).toMatchObject({ severity: 'dead' })
    const low = clip(channel({ peakDbfs: -52 }))
    expect(clipFindings(low)[0]).toMatchObject({ severity: 'degraded' })
    const floating = clipFindings({ ...low, codec: floatingPcm })[0]!
    expect([floating.severity, clipWords(floating).remedy]).toEqual(['note', 'Raise it in the edit.'])
  })
})

describe('measured beside planned', () => {
  const run = levelsOfPatch(scenes[2]!, shelf).runs.find(({ end }) => end.track === '1')!
  it('is silent within what voices do by themselves, and hints beyond it', () => {
    const near = channel({
      peakDbfs: run.peakDb + 1,
      speechDbfsA: run.typicalDb - 1,
      noiseDbfsA: run.noiseWithPlaceDb + 1,
    })
    expect(compareWithRun(near, run).map(comparisonHint)).toEqual(['', '', '', ''])
    const far = channel({
      peakDbfs: run.peakDb - 9,
      speechDbfsA: run.typicalDb + 9,
      noiseDbfsA: run.noiseWithPlaceDb + 12,
    })
    const hints = compareWithRun(far, run).map(comparisonHint)
    expect(hints[0]).toMatch(/quieter than the brief/)
    expect(hints[1]).toMatch(/higher than planned/)
    expect(hints[2]).toMatch(/place is louder, or a box is noisier/)
    expect(compareWithRun(far, run)[2]!.differenceDb).toBeCloseTo(12, 9)
  })
  it('measures no noise where something plays on in the pauses, or there are none', () => {
    const yard = levelsOfPatch(scenes[4]!, shelf)
    const [founder] = yard.runs.filter(({ end }) => end.track === 'left')
    expect(founder).toMatchObject({ source: { id: 'founder' }, playsOn: 'music' })
    const noisy = channel({ noiseDbfsA: founder!.noiseWithPlaceDb + 14 })
    const [, , noise, ratio] = compareWithRun(noisy, founder!)
    expect([noise!.measured, noise!.off, ratio!.measured]).toEqual([null, undefined, null])
    expect(comparisonHint(noise!)).toBe('music plays on in the pauses: noise behind it cannot be measured')
    expect(run.playsOn).toBeUndefined()
    const unbroken = compareWithRun(channel({ pauses: false }), run)[2]!
    expect([unbroken.measured, comparisonHint(unbroken)]).toEqual([
      null,
      'no pause was found to measure it in',
    ])
    // a meter sees the loudest of what a channel holds
    expect(runsOfClip(yard, 'camera.left', 1)[0]!.source.id).toBe('music')
  })
  it('leaves a blank where nothing was measured', () => {
    const silent = channel({ speechDbfsA: null, noiseDbfsA: null })
    expect(compareWithRun(silent, run).filter(({ measured }) => measured === null)).toHaveLength(3)
  })
})

describe('recorded channels', () => {
  it('are each listed once, with what a radio keeps inside last', () => {
    const ids = channelsOf(levelsOfPatch(scenes[0]!, shelf)).map(({ id }) => id)
    expect(new Set(ids).size).toBe(ids.length)
    expect(ids.at(-1)).toBe('transmitter.inside')
  })
})

describe('differences of two settings', () => {
  const tuning = scenes.find(({ name }) => name === 'The tuning')!
  it('are the controls that stand elsewhere and what comes of it, and none for the same', () => {
    expect(differencesOf(tuning, tuning, shelf)).toEqual([])
    const turned = applyEdits(
      tuning,
      [{ kind: 'set control', part: 'camera', control: 'level', position: 5 }],
      shelf,
    )
    const found = differencesOf(tuning, turned, shelf)
    expect(found[0]).toEqual({ what: 'Camera, Record level', one: '1 of 25', other: '5 of 25' })
    const peaks = found.find(({ what }) => /on Camera, left: peaks/.test(what))!
    expect(peaks.one).not.toBe(peaks.other)
    expect(found.some(({ what }) => what.includes('Recorder'))).toBe(false)
    // the other way round it says the same the other way round
    expect(differencesOf(turned, tuning, shelf)[0]).toMatchObject({ one: '5 of 25', other: '1 of 25' })
  })
})
