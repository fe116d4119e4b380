import { describe, expect, it } from 'vitest'
import { applyEdits, inverseOf } from '../edits'
import { scene, scenes, shelf } from '../tests/demo'
import {
  type Brief,
  checkPatch,
  type NewSource,
  type Source,
  withNewPlace,
  withNoise,
  withoutNoise,
  withoutSource,
  withSource,
} from './index'

const bench = scene('1-the-founder-at-the-bench')
const changed = (to: Partial<Brief>) => applyEdits(bench, [{ kind: 'change brief', to }], shelf)
const kinds = ['speech', 'strike', 'music', 'machine', 'line', 'audience', 'second language'] as const
const kindOf: Partial<Record<NewSource, Source['kind']>> = { audience: 'speech', 'second language': 'line' }

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
