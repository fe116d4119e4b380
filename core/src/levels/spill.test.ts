import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { louderBy, withSource } from '../model'
import { planScene, scenarios } from '../plan'
import { shelf } from '../tests/demo'
import { verdictOf } from '../words'
import { findingsOf, levelsOfPatch } from './index'

const two = scenarios.find(({ id }) => id === 'two')!
const heardWith = { microphone: shelf.get('fennimore-plug-in-lapel')! }
const patch = planScene(
  { camera: shelf.get('oriel-compact-camcorder')!, scenario: two, heardWith },
  shelf,
)[0]!.patch
const noiseCodes = new Set(['under noise', 'hiss', 'place'])

describe('spill', () => {
  it('is a voice behind another, held better by its own microphone: nothing of its noise is found', () => {
    const levels = levelsOfPatch(patch, shelf)
    const spills = levels.runs.filter(({ spill }) => spill)
    expect(spills.length).toBeGreaterThan(0)
    for (const run of spills) {
      const own = levels.runs.find(
        ({ source, end, spill }) =>
          source.id === run.source.id && !spill && `${end.boxName}, ${end.name}` === run.spill!.heldBy,
      )!
      expect(own.speechToNoiseDb).toBeGreaterThan(run.speechToNoiseDb)
      expect(verdictOf(run, patch.plan)[0]!.text).toMatch(/^Spill: /)
      const asked = { plan: patch.plan, wantedSpeechToNoiseDb: 90, patch }
      const found = findingsOf(levels, asked).filter(({ code }) => noiseCodes.has(code))
      expect(found.some(({ subject }) => subject.run === run.id)).toBe(false)
      expect(found.some(({ subject }) => subject.run === own.id)).toBe(true)
    }
  })
  it('is somebody who is loud at a microphone that another wears, and wears one as well', () => {
    // 10 dB louder than the other, who is still 6 dB louder at the own lapel
    const sources = patch.brief.sources.map((source) =>
      source.id === 'first' ? louderBy(source, 10) : source,
    )
    const loud = applyEdits(patch, [{ kind: 'change brief', to: { sources } }], shelf)
    const own = levelsOfPatch(loud, shelf).runs.filter(({ end }) => end.kind === 'recording')
    const spills = own.map(({ source, entry, spill }) => [source.id, entry.part, spill !== undefined])
    expect(spills.toSorted()).toEqual([
      ['first', 'microphone-1', false],
      ['first', 'microphone-2', true],
      ['second', 'microphone-1', true],
      ['second', 'microphone-2', false],
    ])
  })
  it('is not what no microphone is meant for: that should be heard, and its noise is reported', () => {
    const to = withSource(patch.brief, 'audience')
    const with_ = applyEdits(patch, [{ kind: 'change brief', to }], shelf)
    const audience = levelsOfPatch(with_, shelf).runs.filter(
      ({ source, end }) => source.name === 'audience' && end.kind === 'recording',
    )
    expect(audience.length).toBeGreaterThan(0)
    expect(audience.every(({ spill }) => !spill)).toBe(true)
  })
})
