import { describe, expect, it } from 'vitest'
import { ChannelMeter } from './channel-meter'
import { ClipMeter } from './clip-meter'

const measured = (samples: readonly number[], rateHz = 1000, frames = samples.length) => {
  const meter = new ChannelMeter(rateHz, 24, frames)
  meter.push(Float32Array.from(samples))
  return meter.finish()
}

describe('one channel as its samples go by', () => {
  it('is drawn in at most 600 slices, each from its lowest to its highest sample', () => {
    const ramp = Array.from({ length: 1199 }, (_, index) => (index % 2 ? -1 : 1) * (index / 2048))
    const { envelope } = measured(ramp)
    expect(envelope).toHaveLength(600)
    expect(envelope[1]).toEqual([-3 / 2048, 2 / 2048])
    expect(envelope.at(-1)).toEqual([1198 / 2048, 1198 / 2048])
    expect(measured(ramp.slice(0, 600)).envelope).toHaveLength(600)
    expect(measured(ramp.slice(0, 601)).envelope).toHaveLength(301)
  })
  it('keeps 64 samples on each side of the highest, as far as there are so many', () => {
    const wave = (length: number, peakAt: number) =>
      Array.from({ length }, (_, index) => (index === peakAt ? 0.75 : (index % 61) / 128))
    const inside = measured(wave(400, 200))
    expect(inside.worstPeak).toEqual([...Float32Array.from(wave(400, 200).slice(136, 265))])
    expect(inside.peakAtS).toBe(0.2)
    expect(measured(wave(400, 10)).worstPeak).toEqual([...Float32Array.from(wave(400, 10).slice(0, 75))])
    expect(measured(wave(215, 200)).worstPeak).toHaveLength(79)
  })
  it('counts the mean power against that of a full-scale sine', () => {
    expect(measured([0.5, -0.5, 0.5, -0.5]).rmsDbfs).toBeCloseTo(20 * Math.log10(0.5 * Math.SQRT2), 6)
  })
  it('hears levels in blocks of a tenth of a second; a shorter clip has none', () => {
    const spoken = (count: number, rateHz: number) =>
      measured(
        Array.from({ length: count }, (_, index) => Math.sin(index)),
        rateHz,
      ).speechDbfsA
    expect(spoken(799, 8000)).toBeNull()
    expect(spoken(800, 8000)).not.toBeNull()
    expect(spoken(999, 10_000)).toBeNull()
  })
  it('takes what is no number for silence', async () => {
    const meter = new ClipMeter({ channels: 1, rateHz: 1000, bits: 0, frames: 4 })
    await meter.push([Float32Array.from([0.25, NaN, Infinity, -0.5])])
    expect((await meter.finish()).channels[0]).toMatchObject({
      peakAtS: 0.003,
      envelope: expect.arrayContaining([[0, 0]]),
    })
  })
})
