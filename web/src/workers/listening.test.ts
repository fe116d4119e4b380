import { describe, expect, it } from 'vitest'
import { renderRateHz, renderTrack } from './listening'
import { tuning, shelf } from '../tests/demo'

describe('listening', () => {
  it('renders the selected recording, whole, with progress, the same for the same seed', () => {
    const shares: number[] = []
    const listening = { box: 'camera', track: 'left', seconds: 1, seed: 3 }
    const once = renderTrack(tuning, shelf, listening, (share) => shares.push(share))
    expect(once.samples).toHaveLength(renderRateHz)
    expect(shares.at(-1)).toBeGreaterThan(0.8)
    expect(renderTrack(tuning, shelf, listening, () => undefined).samples).toEqual(once.samples)
    expect(once.heard.levelDbfsA).toBeGreaterThan(-60)
  })
  it('takes a clip of one\u2019s own in place of the voice, and says when the recording is gone', () => {
    const clip = Float32Array.from({ length: 4800 }, (_, frame) => Math.sin(frame / 7))
    const listening = { box: 'camera', track: 'left', seconds: 1, seed: 3 }
    const own = renderTrack(tuning, shelf, { ...listening, clip }, () => undefined)
    expect(own.samples).not.toEqual(renderTrack(tuning, shelf, listening, () => undefined).samples)
    expect(() => renderTrack(tuning, shelf, { ...listening, track: 'gone' }, () => undefined)).toThrow(
      /no longer in the chain/,
    )
  })
})
