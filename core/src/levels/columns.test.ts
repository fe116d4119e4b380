import { describe, expect, it } from 'vitest'
import { ceilingOf, pointOf, runOf } from '../tests/runs'
import { columnsOf, wholePeakAtSourceDb } from './index'

const columns = (...points: ReturnType<typeof pointOf>[]) => columnsOf(runOf({ points }))

describe('columns of the level map', () => {
  it('tell the peak of all that sounds where it is more than that of the source', () => {
    // the source peaks at 80 dB SPL
    const whole = (headroomDb: number) =>
      wholePeakAtSourceDb(runOf(), ceilingOf(headroomDb, { atSourceDb: 100 }))
    expect(whole(19.8)).toBeUndefined()
    expect(whole(19.6)).toBeCloseTo(80.4, 9)
    expect(wholePeakAtSourceDb(runOf(), undefined)).toBeUndefined()
  })
  it('take in what has nothing of its own to show', () => {
    const names = (kind: 'low-cut' | 'duck' | 'listen' | 'junction' | 'sum' | 'pad') =>
      columns(pointOf('boom'), pointOf('mixer', { kind })).length
    for (const kind of ['low-cut', 'duck', 'listen', 'junction', 'sum'] as const) expect(names(kind)).toBe(1)
    expect(names('pad')).toBe(2)
  })
  it('show a lead where it hisses or has a switch of its own', () => {
    const lead = (more: Parameters<typeof pointOf>[1]) =>
      columns(pointOf('boom'), pointOf('lead', { kind: 'piece', ownNoiseAtSourceDb: -Infinity, ...more }))
        .length
    expect(lead({})).toBe(1)
    expect(lead({ ownNoiseAtSourceDb: -20 })).toBe(2)
    expect(lead({ controls: ['lead.pad'] })).toBe(2)
    expect(lead({ controls: ['mixer.gain'] })).toBe(1)
  })
  it('show a recording where it adds noise', () => {
    const track = (ownNoiseAtSourceDb: number) =>
      columns(pointOf('boom'), pointOf('recorder', { kind: 'recording', ownNoiseAtSourceDb })).length
    expect([track(-Infinity), track(-10)]).toEqual([1, 2])
  })
  it('have the tightest ceiling of their points, the last floor, and their own noise by power', () => {
    const [column] = columns(
      pointOf('recorder', { ceilings: [ceilingOf(9)], controls: ['recorder.gain'], ownNoiseAtSourceDb: 10 }),
      pointOf('recorder', {
        kind: 'low-cut',
        ceilings: [ceilingOf(5), ceilingOf(7)],
        controls: ['recorder.gain', 'recorder.low-cut'],
        ownNoiseAtSourceDb: 10,
        noiseAtSourceDb: 17,
        pauseNoiseAtSourceDb: 18,
        gainFromSourceDb: -90,
      }),
    )
    expect(column).toMatchObject({
      points: [0, 1],
      controls: ['recorder.gain', 'recorder.low-cut'],
      ceiling: { headroomDb: 5 },
      ownNoiseAtSourceDb: expect.closeTo(13.01, 2),
      noiseAtSourceDb: 17,
      pauseNoiseAtSourceDb: 18,
      gainFromSourceDb: -90,
    })
  })
})
