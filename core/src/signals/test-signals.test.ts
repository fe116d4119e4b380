import { describe, expect, it } from 'vitest'
import { transform } from '../measure/fourier'
import { type TestSignalKind, testSignal, testSignalKinds } from './test-signals'

const rateHz = 48_000
const levelDbfs = -12
const signals = new Map<TestSignalKind, Float32Array>()
/** Several tests look at the same signal; it is made once. */
function made(kind: TestSignalKind): Float32Array {
  const samples = signals.get(kind) ?? testSignal({ kind, levelDbfs }, rateHz)
  signals.set(kind, samples)
  return samples
}
const peakDbfs = (samples: Float32Array) =>
  20 * Math.log10(samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))
const rmsDbfs = (samples: Float32Array) =>
  10 * Math.log10((2 * samples.reduce((sum, sample) => sum + sample ** 2, 0)) / samples.length)
/** Power of a stretch in a band. */
function bandPower(samples: Float32Array, fromHz: number, toHz: number): number {
  const size = 2 ** 17
  const re = Float64Array.from(samples.subarray(0, size))
  const im = new Float64Array(size)
  transform(re, im)
  let sum = 0
  for (let bin = Math.round((fromHz * size) / rateHz); bin < Math.round((toHz * size) / rateHz); bin++)
    sum += re[bin]! ** 2 + im[bin]! ** 2
  return sum
}

describe('test signals', () => {
  it('never exceed the level that they state, and the loudest part of each but noise reaches it', () => {
    for (const kind of testSignalKinds) {
      const peak = peakDbfs(made(kind))
      expect(peak, kind).toBeLessThan(levelDbfs + (kind === 'pink noise' ? 3 : 0.01))
      expect(peak, kind).toBeGreaterThan(levelDbfs - (kind === 'pink noise' ? 3 : 0.1))
    }
  })
  it('begin and end in silence', () => {
    for (const kind of testSignalKinds) {
      const samples = made(kind)
      expect(Math.abs(samples[0]!), kind).toBeLessThan(1e-6)
      expect(Math.abs(samples.at(-1)!), kind).toBeLessThan(1e-6)
    }
  })
  it('step in steps of 6 dB', () => {
    const steps = made('steps')
    const level = (at: number) => rmsDbfs(steps.subarray((at + 0.2) * rateHz, (at + 0.8) * rateHz))
    for (let step = 1; step < 9; step++) expect(level(step) - level(step - 1)).toBeCloseTo(6, 2)
    expect(level(8)).toBeCloseTo(levelDbfs, 2)
  })
  it('give pink noise the same power in every octave', () => {
    const noise = made('pink noise')
    const octaves = [100, 200, 400, 800, 1600, 3200, 6400].map((hz) => bandPower(noise, hz, 2 * hz))
    const mean = octaves.reduce((sum, each) => sum + each, 0) / octaves.length
    for (const octave of octaves) expect(Math.abs(10 * Math.log10(octave / mean))).toBeLessThan(1)
  })
  it('sweep through the same ratio of frequencies in equal times', () => {
    const samples = made('sweep')
    const crossings = (fromS: number) => {
      const part = samples.subarray(fromS * rateHz, (fromS + 0.2) * rateHz)
      return part.filter((sample, index) => index > 0 && sample >= 0 && part[index - 1]! < 0).length / 0.2
    }
    expect(crossings(6) / crossings(5)).toBeCloseTo(1000 ** 0.1, 0)
    expect(crossings(8) / crossings(7)).toBeCloseTo(1000 ** 0.1, 0)
  })
  it('click upwards only', () => {
    const samples = made('polarity click')
    expect(samples.every((sample) => sample >= 0)).toBe(true)
    expect(peakDbfs(samples)).toBeCloseTo(levelDbfs, 1)
  })
})
