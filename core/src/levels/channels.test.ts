import { describe, expect, it } from 'vitest'
import { runOf } from '../tests/runs'
import { channelsOf, monoLosses, type RecordedChannel, runsOfClip, tracksNamed } from './index'

/** Two channels of one box that hold one source, the second at another gain or the other way up. */
const pair = (gainDb: number, sign: 1 | -1): RecordedChannel[] =>
  (['left', 'right'] as const).map((track, index) => ({
    id: `camera.${track}`,
    name: `Camera, ${track}`,
    box: 'camera',
    boxName: 'Camera',
    track,
    names: [track],
    sources: ['speaker'],
    holds: [
      { source: 'speaker', by: 'boom', gainDb: index ? gainDb : 0, sign: index ? sign : 1, typicalDb: -20 },
    ],
  }))

describe('a sum to mono', () => {
  it('is silence where both halves are equal and one is upside down', () => {
    expect(monoLosses(pair(0, -1))[0]!.leftDb).toBe(-Infinity)
  })
  it('leaves what arithmetic says where they are not quite equal', () => {
    // 1 - 10^(-1/20) of the louder
    expect(monoLosses(pair(-1, -1))[0]!.leftDb).toBeCloseTo(20 * Math.log10(1 - 10 ** (-1 / 20)), 9)
  })
  it('loses nothing the same way up, and little where one half is far softer', () => {
    expect(monoLosses(pair(0, 1))).toEqual([])
    expect(monoLosses(pair(-12, -1))).toEqual([])
  })
})

describe('what a channel holds', () => {
  const from = (id: string, db: number, sign: 1 | -1 = 1) =>
    runOf({
      id: `${id}>boom>recorder.left`,
      source: { ...runOf().source, id, name: id } as ReturnType<typeof runOf>['source'],
      byEntry: { db, sign },
    })
  const channels = (...runs: ReturnType<typeof runOf>[]) => channelsOf({ runs, reach: {}, assumptions: [] })
  it('is every source with its gain from where it is, down to 40 dB under the loudest', () => {
    const [channel] = channels(from('near', -30, -1), from('far', -69.9), from('faint', -70.1))
    expect(channel).toMatchObject({ id: 'recorder.left', name: 'Recorder, Left', sources: ['near', 'far'] })
    // sources at 60 dB SPL
    expect(channel!.holds).toEqual([
      { source: 'near', by: 'Boom', gainDb: -90, sign: -1, typicalDb: -30 },
      { source: 'far', by: 'Boom', gainDb: -129.9, sign: 1, typicalDb: -69.9 },
    ])
    expect(channels(from('gone', -141))[0]!.holds).toEqual([])
  })
  it('names what only spills in after what it is meant for, and how far below', () => {
    const spill = { ...from('beside', -48), spill: { heldBy: 'Recorder, Right' } }
    const [channel] = channels(spill, from('soft', -35), from('near', -30))
    expect(channel!.sources).toEqual(['near', 'soft'])
    expect(channel!.holds.map(({ source, spillDb }) => [source, spillDb])).toEqual([
      ['near', undefined],
      ['soft', undefined],
      ['beside', 18],
    ])
  })
  it('comes last where a radio keeps it', () => {
    const radio = runOf({ end: { ...runOf().end, box: 'transmitter', gearKind: 'radio' } })
    const ears = runOf({ end: { ...runOf().end, box: 'phones', kind: 'listen' } })
    expect(channels(radio, ears, runOf()).map(({ box }) => box)).toEqual(['recorder', 'transmitter'])
  })
})

describe('the channels of a clip', () => {
  const at = (track: string, name: string, microphone: string) =>
    runOf({
      id: `speaker>${microphone}>recorder.${track}`,
      entry: { part: microphone.toLowerCase(), name: microphone },
      end: { ...runOf().end, track, name },
    })
  const levels = {
    runs: [at('1', 'track 1', 'Boom'), at('2', 'track 2', 'Lapel'), at('3', 'safety of 1', 'Boom')],
    reach: {},
    assumptions: [],
  }
  const tracksOf = (names: string[] | undefined, count = 3) =>
    runsOfClip(levels, 'recorder.1', count, names).map((run) => run?.end.track)

  it('are the next tracks, where nobody named them or by names of nothing here', () => {
    expect(tracksOf(undefined)).toEqual(['1', '2', '3'])
    expect(tracksOf(['a', 'b', 'c'])).toEqual(['1', '2', '3'])
  })
  it('are the tracks that they are named after, by track, microphone or voice', () => {
    expect(tracksOf(['Boom', 'Boom, safety', 'lapel'])).toEqual(['1', '3', '2'])
    expect(tracksOf(['', 'SAFETY of 1'], 2)).toEqual(['1', '3'])
    // what is named and means nothing of this box is held against nothing
    expect(tracksOf(['Boom', 'mix', 'Lapel'])).toEqual(['1', undefined, '2'])
  })
  it('mean no track twice, and no part of a longer number', () => {
    const tracks = [{ names: ['track 1'] }, { names: ['track 12'] }]
    expect(tracksNamed(tracks, ['track 12', 'Track 1 b', 'track 1'])).toEqual([
      tracks[1],
      tracks[0],
      undefined,
    ])
  })
})
