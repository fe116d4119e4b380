import { describe, expect, it } from 'vitest'
import { bytesSource, type ByteSource, wavBytes } from '../media'
import { noise, talkingClip, tone } from '../signals'
import { amplitudeDb, aWeightingDb, powerDb } from '../units'
import { cases } from '../tests/form'
import { AFilter, ChannelMeter, type ClipSoFar, measureClip } from './index'

const rateHz = 48000
const measure = async (channels: Float32Array[], bits: 16 | 24 | 32 = 24) =>
  (await measureClip(bytesSource(wavBytes(channels, rateHz, bits)), 'clip.wav'))!

describe('the A filter', () => {
  it.each([44100, 48000, 96000])('follows the analogue curve at %i Hz', (rate) => {
    const filter = new AFilter(rate)
    for (const frequencyHz of [20, 31.5, 63, 125, 250, 500, 1000, 2000, 4000, 8000, 12500, 16000, 20000])
      expect(
        Math.abs(amplitudeDb(filter.response(frequencyHz, rate)) - aWeightingDb(frequencyHz)),
        // well inside class 1 of IEC 61672-1, table 3
      ).toBeLessThan(frequencyHz > 12500 ? 1.2 : 0.4)
  })
  it.each([44100, 48000, 96000])('meets it at its upper pole and at half the rate of %i Hz', (rate) => {
    const filter = new AFilter(rate)
    const offDb = (frequencyHz: number) =>
      amplitudeDb(filter.response(frequencyHz, rate)) - aWeightingDb(frequencyHz)
    for (const frequencyHz of [100, 12_194.2, rate / 2])
      expect(Math.abs(offDb(frequencyHz))).toBeLessThan(0.025)
    expect(offDb(1000)).toBeCloseTo(0, 9)
  })
  it.each([8000, 16_000, 22_050])('follows it as far as a rate of %i Hz goes', (rate) => {
    const filter = new AFilter(rate)
    for (const frequencyHz of [50, 200, 500, 1000, 2000, 0.45 * rate])
      expect(
        Math.abs(amplitudeDb(filter.response(frequencyHz, rate)) - aWeightingDb(frequencyHz)),
      ).toBeLessThan(0.7)
  })
  it('does to samples what its response says', () => {
    const filter = new AFilter(rateHz)
    const out = tone(200, 0, 1, rateHz).map((sample) => filter.next(sample))
    const power = out.slice(24000).reduce((sum, sample) => sum + sample * sample, 0) / 24000
    expect(powerDb(2 * power)).toBeCloseTo(aWeightingDb(200), 1)
  })
})

describe('levels of a clip', () => {
  it('reads a sine the same as peak and as RMS', async () => {
    const [channel] = (await measure([tone(997, -12, 3, rateHz)])).channels
    expect(channel!.peakDbfs).toBeCloseTo(-12, 2)
    expect(channel!.rmsDbfs).toBeCloseTo(-12, 2)
    expect(channel!.clipped).toEqual([])
  })
  it('reads steady noise, and says that there was no pause', async () => {
    const [channel] = (await measure([noise(-60, 10, rateHz, 1)])).channels
    expect(Math.abs(channel!.noiseDbfsA! + 60)).toBeLessThan(0.3)
    expect(channel!.pauses).toBe(false)
  })
  it.each([
    [-20, -65],
    [-14, -50],
    [-30, -80],
  ])('finds speech at %f and the pauses at %f dBFS(A)', async (typicalDbfs, noiseDbfsA) => {
    const clip = talkingClip({
      typicalDbfs,
      noiseDbfsA,
      loudestPeakDbfs: typicalDbfs + 8,
      lengthS: 12,
      rateHz,
      seed: 2,
    })
    const [channel] = (await measure([clip])).channels
    expect(Math.abs(channel!.speechDbfsA! - typicalDbfs)).toBeLessThan(1)
    expect(Math.abs(channel!.noiseDbfsA! - noiseDbfsA)).toBeLessThan(0.5)
    expect(channel!.pauses).toBe(true)
  })
  it('does not take a strike 45 dB over the voice for the voice', async () => {
    const clip = talkingClip({
      typicalDbfs: -50,
      noiseDbfsA: -84,
      loudestPeakDbfs: 3,
      lengthS: 12,
      rateHz,
      seed: 3,
    })
    const [channel] = (await measure([clip])).channels
    expect(Math.abs(channel!.speechDbfsA! + 50)).toBeLessThan(1)
    expect(channel!.peakDbfs).toBeCloseTo(0, 1)
  })
  it('says nothing of digital silence instead of minus infinity', async () => {
    const [channel] = (await measure([new Float32Array(48000)])).channels
    expect(channel).toMatchObject({
      peakDbfs: null,
      rmsDbfs: null,
      speechDbfsA: null,
      noiseDbfsA: null,
      clipped: [],
    })
  })
  it('keeps the wave around the worst peak', async () => {
    const quiet = tone(500, -30, 1, rateHz)
    quiet[20_000] = 0.9
    const [channel] = (await measure([quiet])).channels
    expect(channel!.peakAtS).toBeCloseTo(20_000 / rateHz, 6)
    expect(channel!.worstPeak).toHaveLength(129)
    expect(channel!.worstPeak[64]).toBeCloseTo(0.9, 3)
    expect(channel!.envelope.length).toBeLessThanOrEqual(600)
  })
})

describe('flat tops', () => {
  const cut = (samples: Float32Array, limit: number) =>
    samples.map((sample) => Math.max(-limit, Math.min(limit, sample)))
  it.each([16, 24] as const)('finds a cut at full scale in %i bits, where it happened', async (bits) => {
    const clip = tone(300, -20, 3, rateHz)
    clip.set(cut(tone(300, 6, 0.5, rateHz), 1), rateHz)
    const [channel] = (await measure([clip], bits)).channels
    expect(channel!.clipped).toHaveLength(1)
    expect(channel!.clipped[0]!.shape).toBe('flat at full scale')
    expect(channel!.clipped[0]!.fromS).toBeCloseTo(1, 2)
    expect(channel!.clipped[0]!.toS).toBeCloseTo(1.5, 2)
  })
  it('finds a cut made earlier in the chain, below full scale, with its level', async () => {
    const [channel] = (await measure([cut(tone(440, 0, 1, rateHz), 0.4)])).channels
    expect(channel!.clipped[0]!.shape).toBe('flat below full scale')
    expect(channel!.clipped[0]!.levelDbfs).toBeCloseTo(amplitudeDb(0.4), 1)
  })
  it.each([20, 50, 100, 1000, 5000])(
    'takes no whole sine of %i Hz for a cut one, however high it stands',
    async (frequencyHz) => {
      for (const bits of [16, 24] as const)
        expect((await measure([tone(frequencyHz, -0.2, 2, rateHz)], bits)).channels[0]!.clipped).toEqual([])
    },
  )
  it.each([16, 24] as const)(
    'takes no tone under noise for a cut one, in %i bits, at any level',
    async (bits) => {
      for (const noiseDbfsA of cases([-96, -84, -72, -66, -50], [-66]))
        for (const levelDbfs of cases([-26, -12, -1], [-12])) {
          const hiss = noise(noiseDbfsA, 3, rateHz, 7)
          const clip = tone(1000, levelDbfs, 3, rateHz).map((sample, index) => sample + hiss[index]!)
          const [channel] = (await measure([clip], bits)).channels
          expect(channel!.clipped.filter(({ shape }) => shape === 'flat below full scale')).toEqual([])
        }
    },
  )
  it('leaves noise and steps alone', async () => {
    expect((await measure([noise(-12, 3, rateHz, 5)], 16)).channels[0]!.clipped).toEqual([])
    const step = new Float32Array(48000).map((_, index) => (index < 24000 ? 0 : 0.5))
    expect((await measure([step])).channels[0]!.clipped).toEqual([])
  })
})

describe('long files', () => {
  /** A file that is never in memory: a header and endless samples, made when they are asked for. */
  function endless(seconds: number): { source: ByteSource; largest: () => number } {
    const header = wavBytes([new Float32Array(1)], rateHz, 16).slice(0, 44)
    const dataBytes = seconds * rateHz * 2
    new DataView(header.buffer).setUint32(40, dataBytes, true)
    let largest = 0
    return {
      largest: () => largest,
      source: {
        size: 44 + dataBytes,
        read: (offset, length) => {
          largest = Math.max(largest, length)
          if (offset < 44) return Promise.resolve(header.slice(offset, offset + length))
          const there = Math.min(length, 44 + dataBytes - offset)
          return Promise.resolve(new Uint8Array(there).map((_, index) => (index * 31) & 0x1f))
        },
      },
    }
  }
  it('reads a long file in small parts, and stops when cancelled', async () => {
    const { source, largest } = endless(7200)
    let asked = 0
    expect(await measureClip(source, 'long.wav', { cancelled: () => ++asked > 5 })).toBeUndefined()
    expect(largest()).toBeLessThan(1 << 20)
  })
  it('keeps no more for a long clip than for a short one', () => {
    const size = (seconds: number) => {
      const meter = new ChannelMeter(1000, 16, seconds * 1000)
      const block = tone(100, 3, 1, 1000).map((sample) => Math.max(-1, Math.min(1, sample)))
      for (let second = 0; second < seconds; second++) meter.push(block)
      return JSON.stringify(meter.finish()).length
    }
    expect(size(cases(3600, 600))).toBeLessThan(2 * size(cases(600, 100)))
  })
  it('reports how far it is', async () => {
    const seen: number[] = []
    await measureClip(bytesSource(wavBytes([tone(100, -6, 3, rateHz)], rateHz)), 'clip.wav', {
      progress: (share) => seen.push(share),
    })
    expect(seen.at(-1)).toBe(1)
    expect(seen.length).toBeGreaterThan(1)
    expect(seen).toEqual([...new Set(seen)].sort((one, other) => one - other))
    // soon a first time
    expect(seen[0]).toBeLessThan(0.1)
  })
  it('tells while it reads what nothing that comes later takes back', async () => {
    const loud = tone(100, 3, 4, rateHz).map((sample, index) =>
      index < 2 * rateHz ? Math.max(-1, Math.min(1, sample)) : 0.01 * sample,
    )
    const seen: ({ share: number } & ClipSoFar)[] = []
    await measureClip(bytesSource(wavBytes([loud], rateHz)), 'clip.wav', {
      progress: (share, soFar) => seen.push({ share, ...soFar }),
    })
    const half = seen.find(({ share }) => share > 0.3)!
    expect(half.share).toBeLessThan(0.75)
    expect(half.peakDbfs).toBeCloseTo(0, 1)
    expect(half.cut).toBeGreaterThan(50)
    expect(seen.at(-1)!.cut).toBeGreaterThanOrEqual(half.cut)
    // and its wave so far
    expect(half.highs.length / half.slices).toBeCloseTo(half.share, 1)
    const { highs, slices } = seen.at(-1)!
    expect(highs).toHaveLength(slices)
    expect(Math.min(...highs.slice(0, slices / 2))).toBeGreaterThan(0.99)
    expect(Math.max(...highs.slice(slices / 2 + 1))).toBeLessThan(0.015)
  })
})
