import { describe, expect, it } from 'vitest'
import { fittingPieces } from '../circuit'
import { applyEdits } from '../edits'
import { offersForLink, outcomeOf } from '.'
import { scene, shelf } from '../tests/demo'

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
    expect(offers.find(({ gear: each }) => each.id === 'mini-pad-40')).toMatchObject({ severity: 'harmful' })
    for (const offer of offers) expect(() => applyEdits(bench, offer.edits, shelf)).not.toThrow()
  })
  it('says what a change brings, what it cures, and that it cannot be', () => {
    const set = (part: string, control: string, position: number | string) => ({
      kind: 'set control' as const,
      part,
      control,
      position,
    })
    expect(outcomeOf(tuning, [set('pad', 'loss', 'twenty')], shelf)).toMatchObject({
      severity: 'harmful',
      brings: expect.stringMatching(/The hiss on .* is only/),
    })
    expect(
      outcomeOf(bench, [set('recorder', 'output', -13), set('camera', 'level', 3)], shelf),
    ).toMatchObject({
      severity: 'none',
      brings: expect.stringMatching(/^cures: The hiss on .* is only/),
    })
    expect(outcomeOf(bench, [], shelf).brings).toMatch(/^worst speech-to-noise stays \d+\.\d dB$/)
    // the wiring of the result is computed too: a microphone that would lose its power is said to
    expect(outcomeOf(tuning, [set('recorder', 'phantom-1', 'off')], shelf)).toMatchObject({
      severity: 'dead',
      brings: expect.stringMatching(/power/),
    })
    expect(outcomeOf(tuning, [{ kind: 'swap', part: 'camera', gear: 'nowhere' }], shelf).severity).toBe(
      'dead',
    )
  })
})
