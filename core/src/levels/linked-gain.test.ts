import { describe, expect, it } from 'vitest'
import { AgcFollower, settledAgcGainDb } from '../dynamics'
import { feed } from '../tests/line-patch'
import { agcOfTwoFeeds as agc, twoFeeds } from '../tests/two-feeds'
import { plannedPauseS } from '../chain'
import { findingsOf, levelsOfPatch, pauseStory } from './index'
import { levelWords } from '../words'

const levelsFor = (linked: boolean, thereDb: number, hereDbu = -50) =>
  levelsOfPatch(
    twoFeeds([feed('first', hereDbu), feed('second', -50)], { linked, gainsDb: [0, thereDb] }),
    new Map(),
  )
const first = (levels: ReturnType<typeof levelsOfPatch>) =>
  levels.runs.find(({ source, end }) => source.id === 'first' && end.track === 'one')!

describe('automatic gain that turns both channels together', () => {
  it('is held by what is louder on the other channel', () => {
    expect(first(levelsFor(false, 30)).typicalDb).toBeCloseTo(-50 + settledAgcGainDb(agc, -50), 3)
    expect(first(levelsFor(true, 30)).typicalDb).toBeCloseTo(-50 + settledAgcGainDb(agc, -20), 3)
  })
  it('is left alone by what is softer there', () => {
    expect(first(levelsFor(true, -20)).typicalDb).toBeCloseTo(first(levelsFor(false, -20)).typicalDb, 3)
  })
  it('stays down in pauses while the other channel is kept busy: the trick of the trade', () => {
    // a voice at the target asks for nothing; alone, its gain opens all the way when it stops
    const swelling = first(levelsFor(false, 24, -26))
    const busy = first(levelsFor(true, 24, -26))
    const { automatic } = swelling.points.find((point) => point.automatic)!
    expect(automatic!.spokenDb).toBeCloseTo(0, 3)
    expect(automatic!.pauseDb).toBeCloseTo(agc.maximumGainDb, 9)
    // over the pause that the plan reckons with, on samples; times are what the schema takes for granted
    const follower = new AgcFollower({ ...agc, attackMs: 40, holdMs: 300, releaseMs: 1500 }, 8000, 1, 0)
    for (let frame = 0; frame < plannedPauseS * 8000; frame++) follower.next(0)
    const openedDb = follower.gainDb
    // the feed's noise of -100 and the mixer's of -95 are lifted, the converter's of -90 dBFS is not
    const lifted = 10 ** -10 + 10 ** -9.5
    const risenDb = 10 * Math.log10((lifted * 10 ** (openedDb / 10) + 1e-9) / (lifted + 1e-9))
    expect(Math.abs(swelling.pauseRiseDb - risenDb)).toBeLessThan(0.3)
    expect(busy.pauseRiseDb).toBeCloseTo(0, 1)
    expect(pauseStory(busy, () => undefined)).toBeUndefined()
  })
  it('says so where the gain is linked and swells', () => {
    const { plan } = twoFeeds([feed('first', -26), feed('second', -50)], { linked: true })
    const said = (linked: boolean) =>
      levelWords(findingsOf(levelsFor(linked, -40, -26), { plan }).find(({ code }) => code === 'pauses')!)
        .remedy
    expect(said(true)).toMatch(/busy with something steady on the other channel/)
    expect(said(false)).not.toMatch(/other channel/)
  })
  it('shows each control once, where it stands', () => {
    const run = first(levelsFor(true, 0))
    expect(run.points.flatMap(({ controls }) => controls)).toEqual(['here.level'])
  })
  it('hangs on the controls of both channels', () => {
    expect(levelsFor(true, 0).reach['there.level']).toHaveLength(2)
    expect(levelsFor(false, 0).reach['there.level']).toHaveLength(1)
  })
})
