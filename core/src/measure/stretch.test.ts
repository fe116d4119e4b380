import { describe, expect, it } from 'vitest'
import { bytesSource, wavBytes } from '../media'
import { drawnStretch, samplesOfStretch } from './stretch'

const rateHz = 8000
/** A sample says where it stands. */
const ramp = Float32Array.from({ length: 3 * rateHz }, (_, frame) => frame / 32768)
const file = bytesSource(wavBytes([ramp, ramp.map((sample) => -sample)], rateHz))

describe('a stretch of a clip', () => {
  it('is drawn from its own samples, each slice from the lowest to the highest', async () => {
    const { envelopes, fromS, toS } = await drawnStretch(file, 'ramp.wav', 1, 2, 10)
    expect([fromS, toS]).toEqual([1, 2])
    expect(envelopes).toHaveLength(2)
    expect(envelopes[0]).toHaveLength(10)
    expect(envelopes[0]![0]![0]).toBeCloseTo(8000 / 32768, 4)
    expect(envelopes[0]![9]![1]).toBeCloseTo(15999 / 32768, 4)
    expect(envelopes[1]![0]![1]).toBeCloseTo(-8000 / 32768, 4)
  })
  it('is one slice a sample where it is as short as that', async () => {
    const { envelopes } = await drawnStretch(file, 'ramp.wav', 0.5, 0.501, 600)
    expect(envelopes[0]).toHaveLength(8)
    for (const [low, high] of envelopes[0]!) expect(low).toBe(high)
  })
  it('is heard from where it begins to where it ends, and not beyond the clip', async () => {
    const { channels } = await samplesOfStretch(file, 'ramp.wav', 2.5, 9)
    expect(channels[0]).toHaveLength(rateHz / 2)
    expect(channels[0]![0]).toBeCloseTo(20000 / 32768, 4)
  })
})
