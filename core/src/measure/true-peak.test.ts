import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { normal, random } from '../signals'
import { amplitudeDb } from '../units'
import { stretchFrames } from './highs'
import { TruePeak } from './true-peak'

/** Every value between all samples, at so many times the rate, by the defining sum: a sinc of 24 taps in a cosine window. */
function highestOf(samples: Float32Array, factor: number): number {
  let highest = 0
  for (let at = -24 * factor; at < (samples.length + 24) * factor; at++) {
    let [sum, whole] = [0, 0]
    for (let index = Math.ceil(at / factor) - 12; index <= Math.floor(at / factor) + 12; index++) {
      const x = index - at / factor
      if (Math.abs(x) > 12 || x === -12) continue
      const tap = x === 0 ? 1 : (Math.sin(Math.PI * x) / (Math.PI * x)) * Math.cos((Math.PI * x) / 25)
      whole += tap
      sum += tap * (samples[index] ?? 0)
    }
    // a value at a sample is the sample
    const value = at % factor === 0 ? (samples[at / factor] ?? 0) : sum / whole
    highest = Math.max(highest, Math.abs(value))
  }
  return highest
}

function peakOf(samples: Float32Array, rateHz: number, blocks: readonly number[]): number {
  const meter = new TruePeak(rateHz)
  let from = 0
  for (const block of [...blocks, samples.length]) {
    meter.push(samples.subarray(from, from + block))
    from = Math.min(samples.length, from + block)
  }
  return meter.finish()
}

describe('true peak', () => {
  it('is the highest of all values between samples, wherever it lies and however the samples are divided', () => {
    fc.assert(
      fc.property(
        fc.record({
          seed: fc.nat(),
          // around the edges of stretches, that are passed over where nothing can lie
          at: fc.oneof(
            fc.nat(700),
            fc.integer({ min: -14, max: 14 }).map((by) => 2 * stretchFrames + by),
          ),
          wave: fc.constantFrom('pair', 'noise', 'step', 'fast'),
          softer: fc.constantFrom(0, 0.3, 0.95),
          blocks: fc.array(fc.integer({ min: 1, max: 300 }), { maxLength: 4 }),
          rateHz: fc.constantFrom(44_100, 48_000, 96_000),
        }),
        ({ seed, at, wave, softer, blocks, rateHz }) => {
          const next = normal(random(seed))
          const samples = Float32Array.from({ length: 760 }, (_, n) => softer * Math.sin(0.9 * n) ** 3)
          for (let n = Math.max(0, at); n < Math.min(760, at + 20); n++)
            samples[n]! = {
              pair: n - at < 2 ? 1 : samples[n]!,
              noise: 0.4 * next(),
              step: 1,
              fast: Math.sin(Math.PI * 0.5 * n + Math.PI / 4),
            }[wave]
          const expected = amplitudeDb(highestOf(samples, rateHz < 96_000 ? 4 : 2))
          expect(peakOf(samples, rateHz, blocks)).toBeCloseTo(expected, 6)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('of a sine at a quarter of the rate, sampled beside its tops, is its amplitude', () => {
    const samples = Float32Array.from(
      { length: 4800 },
      (_, n) => 0.5 * Math.sin((Math.PI / 2) * n + Math.PI / 4),
    )
    // +0.2/-0.4 dB, as EBU Tech 3341 allows
    expect(peakOf(samples, 48_000, [])).toBeGreaterThan(-6.42)
    expect(peakOf(samples, 48_000, [])).toBeLessThan(-5.82)
    expect(peakOf(new Float32Array(100), 48_000, [])).toBe(-Infinity)
  })
})
