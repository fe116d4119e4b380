import { describe, expect, it } from 'vitest'
import { applyEdits, inverseOf } from '../edits'
import { scene, scenes, shelf } from '../tests/demo'
import {
  type Brief,
  checkPatch,
  movedLevels,
  withFeedLevel,
  type NewSource,
  type Source,
  withNewPlace,
  withNoise,
  withNoiseLevel,
  louderBy,
  withoutNoise,
  withoutSource,
  withSource,
} from './index'

const bench = scene('1-the-founder-at-the-bench')
const changed = (to: Partial<Brief>) => applyEdits(bench, [{ kind: 'change brief', to }], shelf)
const kinds = ['speech', 'strike', 'music', 'machine', 'line', 'audience', 'second language'] as const
const kindOf: Partial<Record<NewSource, Source['kind']>> = { audience: 'speech', 'second language': 'line' }

describe('the levels of a source', () => {
  const normal = { quietest: 54, typical: 60, loudest: 72 }
  it('move along with the typical one: a louder voice calls louder too', () => {
    expect(movedLevels(normal, { typical: 74.5 })).toEqual({ quietest: 68.5, typical: 74.5, loudest: 86.5 })
    expect(movedLevels(normal, { typical: 40 })).toEqual({ quietest: 34, typical: 40, loudest: 52 })
  })
  it('stay in bounds and in order, whichever is moved', () => {
    expect(movedLevels(normal, { typical: 148 })).toEqual({ quietest: 142, typical: 148, loudest: 150 })
    expect(movedLevels(normal, { loudest: 57 })).toEqual({ quietest: 54, typical: 57, loudest: 57 })
    expect(movedLevels(normal, { quietest: 61 })).toEqual({ quietest: 61, typical: 61, loudest: 72 })
  })
  it('are higher together, by less at the end of what a source can be', () => {
    const [voice] = bench.brief.sources
    expect(louderBy({ ...voice!, kind: 'speech', levelsDba: normal } as Source, -6)).toMatchObject({
      levelsDba: { quietest: 48, typical: 54, loudest: 66 },
    })
    expect(louderBy({ ...voice!, kind: 'speech', levelsDba: normal } as Source, 95)).toMatchObject({
      levelsDba: { quietest: 144, typical: 150, loudest: 150 },
    })
  })
  it('are taken as given where all three are', () => {
    const { brief } = scene('4-bells-in-the-town-hall')
    const feed = brief.sources.find((source) => source.kind === 'line')!
    const levelsDbu = { quietest: -30, typical: -20, loudest: -2 }
    const moved = withFeedLevel(brief, feed, levelsDbu).sources.find(({ id }) => id === feed.id)
    expect(moved).toMatchObject({ levelsDbu })
    const louder = withFeedLevel(
      { ...brief, ...withFeedLevel(brief, feed, levelsDbu) },
      { ...feed, levelsDbu },
      { typical: -14 },
    )
    expect(louder.sources.find(({ id }) => id === feed.id)).toMatchObject({
      levelsDbu: { quietest: -24, typical: -14, loudest: 4 },
    })
  })
})

describe('the level of a noise', () => {
  it('takes its loudest moment along, and stays without one where it has none', () => {
    const [noise] = withNoise(bench.brief).noises.slice(-1)
    const steady = { ...noise!, levelDba: 50 }
    expect(withNoiseLevel(steady, 62).loudestDba).toBeUndefined()
    expect(withNoiseLevel({ ...steady, loudestDba: 71 }, 62)).toMatchObject({ levelDba: 62, loudestDba: 83 })
    expect(withNoiseLevel({ ...steady, loudestDba: 148 }, 62)).toMatchObject({ loudestDba: 150 })
  })
})

describe('what a brief says', () => {
  it.each(kinds)(
    'takes a further source of kind %s, which the places hear, and gives it up again',
    (kind) => {
      const next = changed(withSource(bench.brief, kind))
      expect(checkPatch(next, shelf)).toEqual([])
      const added = next.brief.sources.at(-1)!
      expect(added.kind).toBe(kindOf[kind] ?? kind)
      for (const { hears } of next.brief.places)
        expect(hears.some(({ source }) => source === added.id)).toBe(added.kind !== 'line')
      const back = applyEdits(
        next,
        [{ kind: 'change brief', to: withoutSource(next.brief, added.id) }],
        shelf,
      )
      expect(back.brief).toEqual(bench.brief)
    },
  )
  it('never gives an id twice', () => {
    let { brief } = bench
    for (let count = 0; count < 4; count++) {
      brief = { ...brief, ...withSource(brief, 'speech') }
      brief = { ...brief, ...withNoise(brief) }
      brief = { ...brief, ...withNewPlace(brief) }
    }
    for (const list of [brief.sources, brief.noises, brief.places])
      expect(new Set(list.map(({ id }) => id)).size).toBe(list.length)
    expect(checkPatch({ ...bench, brief }, shelf)).toEqual([])
  })
  it('gives a noise up with the side that it came from', () => {
    for (const { brief } of scenes)
      for (const { id } of brief.noises) {
        const { noises, places } = withoutNoise(brief, id)
        expect(noises.some((noise) => noise.id === id)).toBe(false)
        expect(places.some((place) => place.noises?.some(({ noise }) => noise === id))).toBe(false)
      }
  })
  it('can be taken back', () => {
    const edits = [{ kind: 'change brief' as const, to: withSource(bench.brief, 'music') }]
    expect(applyEdits(applyEdits(bench, edits, shelf), inverseOf(bench, edits, shelf), shelf)).toEqual(bench)
  })
  it('says what the result is for, and takes it back as it travels to the server', () => {
    const to = { purpose: 'a documentary' as const, wantedSpeechToNoiseDb: 30 }
    const edits = [{ kind: 'change brief' as const, to }]
    const back = JSON.parse(JSON.stringify(inverseOf(bench, edits, shelf)))
    expect(changed(to).brief).toMatchObject(to)
    expect(applyEdits(changed(to), back, shelf)).toEqual(bench)
  })
})
