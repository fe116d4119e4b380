import { describe, expect, it } from 'vitest'
import { noise, tone } from '../signals'
import { equalLoudness, heardIn, transform } from './index'

const rateHz = 48_000

describe('what is heard', () => {
  it('is as loud as a tone or a noise was made', () => {
    expect(heardIn(tone(1000, -20, 2, rateHz), rateHz).levelDbfsA).toBeCloseTo(-20, 1)
    expect(Math.abs(heardIn(noise(-50, 3, rateHz, 1), rateHz).levelDbfsA + 50)).toBeLessThan(0.2)
    expect(heardIn(new Float32Array(rateHz), rateHz).levelDbfsA).toBe(-Infinity)
  })
  it('leaves pauses out', () => {
    const half = new Float32Array(4 * rateHz)
    half.set(tone(1000, -20, 2, rateHz))
    expect(heardIn(half, rateHz).levelDbfsA).toBeCloseTo(-20, 1)
  })
  it('counts as pause what lies 25 dB under the loudest', () => {
    const twoHalves = (secondDb: number) => {
      const both = new Float32Array(4 * rateHz)
      both.set(tone(1000, -20, 2, rateHz))
      both.set(tone(1000, secondDb, 2, rateHz), 2 * rateHz)
      return heardIn(both, rateHz).levelDbfsA
    }
    expect(twoHalves(-44)).toBeCloseTo(-20 + 10 * Math.log10((1 + 10 ** -2.4) / 2), 0)
    expect(twoHalves(-46)).toBeCloseTo(-20, 0)
  })
  it('is measured in whole blocks of a tenth of a second', () => {
    expect(heardIn(tone(1000, -20, 0.099, rateHz), rateHz).levelDbfsA).toBe(-Infinity)
    expect(heardIn(tone(1000, -20, 0.101, rateHz), rateHz).levelDbfsA).toBeCloseTo(-20, 0)
  })
  it('has the thirds of an octave from 25 Hz to 20 kHz, as far as the rate goes', () => {
    const middles = (rate: number) =>
      heardIn(tone(1000, -20, 1, rate), rate).bands.map(({ hz }) => Math.round(hz))
    const all = middles(rateHz)
    expect([all.length, all[0], all[16], all.at(-1)]).toEqual([30, 25, 1000, 20_159])
    expect(middles(16_000).at(-1)).toBe(6350)
  })
  it('shares the power of a sound out among its bands, no more and no less', () => {
    const hiss = noise(-20, 6, rateHz, 5)
    const inBands = heardIn(hiss, rateHz).bands.reduce(
      (sum, { levelDbfs }) => sum + 10 ** (levelDbfs / 10),
      0,
    )
    const power = hiss.reduce((sum, sample) => sum + sample * sample, 0) / hiss.length
    // white noise: the bands reach from 22.3 Hz to 22.63 kHz of 24
    expect(inBands).toBeCloseTo(2 * power * ((22_627 - 22.3) / 24_000), 3)
  })
  it('divides a tone on an edge between its neighbours', () => {
    const edgeHz = 1000 * 2 ** (1 / 6)
    const { bands } = heardIn(tone(edgeHz, -12, 2, rateHz), rateHz)
    expect(Math.abs(bands[16]!.levelDbfs + 15)).toBeLessThan(1)
    expect(Math.abs(bands[17]!.levelDbfs + 15)).toBeLessThan(1)
    expect(bands[14]!.levelDbfs).toBeLessThan(-60)
  })
  it('draws each stretch from its own samples, also where there are fewer samples than stretches', () => {
    const ramp = Float32Array.from({ length: 480 }, (_, index) => index / 512)
    const { envelope } = heardIn(ramp, rateHz)
    expect(envelope).toHaveLength(240)
    expect(envelope[10]).toEqual([0, 21 / 512])
    expect(heardIn(ramp.slice(0, 120), rateHz).envelope.map(([, high]) => high * 512)).toEqual(
      Array.from({ length: 240 }, (_, stretch) => Math.floor(stretch / 2)),
    )
  })
  it('draws the extremes of every stretch', () => {
    const samples = new Float32Array(rateHz)
    samples[100] = 0.5
    samples[200] = -0.25
    const { envelope } = heardIn(samples, rateHz)
    expect(Math.max(...envelope.map(([, high]) => high))).toBe(0.5)
    expect(Math.min(...envelope.map(([low]) => low))).toBe(-0.25)
    expect(envelope.at(-1)).toEqual([0, 0])
  })
  it('puts a tone into its third of an octave, at its level', () => {
    for (const hz of [100, 1000, 8000]) {
      const { bands } = heardIn(tone(hz, -12, 2, rateHz), rateHz)
      const loudest = bands.reduce((one, other) => (other.levelDbfs > one.levelDbfs ? other : one))
      expect(Math.abs(Math.log2(loudest.hz / hz))).toBeLessThan(1 / 6)
      expect(Math.abs(loudest.levelDbfs + 12)).toBeLessThan(0.5)
    }
  })
  it('has the power of white noise in its bands, 3 dB more for every octave', () => {
    const { bands } = heardIn(noise(-30, 6, rateHz, 3), rateHz)
    const at = (hz: number) => bands.find((band) => Math.abs(Math.log2(band.hz / hz)) < 0.01)!.levelDbfs
    expect(at(4000) - at(1000)).toBeCloseTo(6.02, 0)
  })
  it('brings sounds to one loudness, that of the softest', () => {
    const sounds = [-20, -32].map((level) => heardIn(tone(1000, level, 1, rateHz), rateHz))
    const [loud, soft] = equalLoudness(sounds)
    expect(20 * Math.log10(loud!)).toBeCloseTo(-12, 1)
    expect(soft).toBeCloseTo(1, 6)
  })
  it('transforms as the sum over all samples does', () => {
    const size = 64
    const input = Float64Array.from({ length: size }, (_, index) => Math.sin(index * 1.3) + (index % 5))
    const [re, im] = [input.slice(), new Float64Array(size)]
    transform(re, im)
    for (let bin = 0; bin < size; bin++) {
      let [sumRe, sumIm] = [0, 0]
      for (let index = 0; index < size; index++) {
        sumRe += input[index]! * Math.cos((2 * Math.PI * bin * index) / size)
        sumIm -= input[index]! * Math.sin((2 * Math.PI * bin * index) / size)
      }
      expect(re[bin]).toBeCloseTo(sumRe, 8)
      expect(im[bin]).toBeCloseTo(sumIm, 8)
    }
  })
})
