import { describe, expect, it } from 'vitest'
import { findWays } from '../circuit'
import { shelf } from '../tests/demo'
import { pairPatch } from '.'

const leads = (from: [string, string], to: [string, string]) => {
  const { patch, link } = pairPatch({ gear: from[0], port: from[1] }, { gear: to[0], port: to[1] }, shelf)
  return findWays(patch, link, shelf).map(({ pieces }) => pieces.map(({ gear }) => gear.id).join(' + '))
}

describe('two things of the shelf', () => {
  it('are joined with the power on that one of them needs', () => {
    // its 2 kohm are loaded down by those of the plug-in power: it works, and is said to lose level
    const lapel = leads(['fennimore-ta3-lapel', 'out'], ['fennimore-mirrorless', 'mic'])
    expect(lapel).toContain('ta3-to-mini')
    expect(leads(['oriel-short-gun', 'out'], ['saltmarsh-two-track', 'in-1']).length).toBeGreaterThan(0)
  })
  it('are joined by what loses level only where nothing clean does it', () => {
    const severities = (from: [string, string], to: [string, string]) => {
      const { patch, link } = pairPatch({ gear: from[0], port: from[1] }, { gear: to[0], port: to[1] }, shelf)
      return findWays(patch, link, shelf).map(({ report }) =>
        report.findings.some(({ severity }) => severity === 'degraded'),
      )
    }
    const lapel = severities(['fennimore-ta3-lapel', 'out'], ['fennimore-mirrorless', 'mic'])
    expect(lapel.length).toBeGreaterThan(0)
    expect(lapel.every(Boolean)).toBe(true)
    const gun = severities(['oriel-short-gun', 'out'], ['saltmarsh-two-track', 'in-1'])
    expect(gun.length).toBeGreaterThan(0)
    expect(gun.some(Boolean)).toBe(false)
  })
  it('leave the power off where nobody needs it', () => {
    const { patch } = pairPatch(
      { gear: 'saltmarsh-hand-dynamic', port: 'out' },
      { gear: 'saltmarsh-two-track', port: 'in-1' },
      shelf,
    )
    expect(patch.boxes[1]!.settings).toEqual({})
  })
})
