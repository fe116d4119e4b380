import { describe, expect, it } from 'vitest'
import { fittingPieces } from '../circuit'
import { applyEdits, type Edit } from '../edits'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { outcomeWords } from '../words'
import { offersForLink, outcomeOf, severityOf } from '.'

const bench = scene('1-the-founder-at-the-bench')
const tuning = scene('3-the-tuning')

describe('offers', () => {
  it('offers only what has plugs for both sides, owned first, and says what each would bring', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    for (const { gear: piece, reversed } of fittingPieces(link, bench, shelf))
      expect(reversed ? piece.passive!.to : piece.passive!.from).toMatch(/^mini/)
    const offers = offersForLink(bench, link, shelf)
    const owned = offers.map((offer) => Number(offer.gear.owned > 0))
    expect(owned).toEqual([...owned].sort((one, other) => other - one))
    expect(severityOf(offers.find(({ gear: each }) => each.id === 'mini-pad-40')!.outcome)).toBe('harmful')
    for (const offer of offers) expect(() => applyEdits(bench, offer.edits, shelf)).not.toThrow()
  })
  it('says what a change brings, what it cures, and that it cannot be', () => {
    const set = (part: string, control: string, position: number | string) => ({
      kind: 'set control' as const,
      part,
      control,
      position,
    })
    const said = (patch: Patch, ...edits: Edit[]) => {
      const outcome = outcomeOf(patch, edits, shelf)
      return [severityOf(outcome), outcomeWords(outcome)]
    }
    expect(said(tuning, set('pad', 'loss', 'twenty'))).toEqual([
      'harmful',
      expect.stringMatching(/The hiss on .* is only/),
    ])
    expect(said(bench, set('recorder', 'output', -13), set('camera', 'level', 3))).toEqual([
      'none',
      expect.stringMatching(/^cures: The hiss on .* is only/),
    ])
    expect(said(bench)[1]).toMatch(/^worst speech-to-noise stays \d+\.\d dB$/)
    // a bell does not speak
    expect(said(tuning)[1]).toMatch(/^worst signal-to-noise stays \d+\.\d dB$/)
    // the wiring of the result is computed too: a microphone that would lose its power is said to
    expect(said(tuning, set('recorder', 'phantom-1', 'off'))).toEqual([
      'dead',
      expect.stringMatching(/power/),
    ])
    expect(said(tuning, { kind: 'swap', part: 'camera', gear: 'nowhere' })[0]).toBe('dead')
  })
})
