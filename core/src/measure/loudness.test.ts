import { describe, expect, it } from 'vitest'
import { amplitudeFromDb } from '../units'
import type { Loudness } from '../model'
import { cases } from '../tests/form'
import { loudnessOf, LoudnessPowers } from './loudness'
import { TruePeak } from './true-peak'

/**
 * The signals of EBU Tech 3341 (2016), table 1, and Tech 3342 (2016), table 1, made here from their description, with the
 * tolerances given there. Those that are made of real programmes (3341: 7 and 8, 3342: 5 and 6) cannot be had.
 */
const rateHz = 48_000

/** A stereo tone of 1 kHz whose level changes: seconds and dBFS of a sine. */
function steps(...parts: readonly [seconds: number, levelDbfs: number][]): Float32Array {
  const total = parts.reduce((sum, [seconds]) => sum + Math.round(seconds * rateHz), 0)
  const samples = new Float32Array(total)
  let frame = 0
  for (const [seconds, levelDbfs] of parts) {
    const amplitude = amplitudeFromDb(levelDbfs)
    for (const end = frame + Math.round(seconds * rateHz); frame < end; frame++)
      samples[frame] = amplitude * Math.sin((2 * Math.PI * 1000 * frame) / rateHz)
  }
  return samples
}
function powersOf(samples: Float32Array) {
  const powers = new LoudnessPowers(rateHz)
  // in odd pieces, as a file may be read
  for (let from = 0; from < samples.length; from += 10_007) powers.push(samples.subarray(from, from + 10_007))
  return powers.finish()
}
/** Both channels are the same. */
function stereo(samples: Float32Array): Loudness {
  const powers = powersOf(samples)
  return loudnessOf([powers, powers])
}
const near = (value: number | null, expected: number, tolerance: number) => {
  expect(value).not.toBeNull()
  expect(Math.abs(value! - expected), `${value} for ${expected}`).toBeLessThanOrEqual(tolerance)
}

describe('loudness of the signals of EBU Tech 3341', () => {
  it('cases 1 and 2: steady tones', () => {
    for (const level of [-23, -33]) {
      const { momentaryLufs, shortTermLufs, integratedLufs } = stereo(steps([20, level]))
      near(momentaryLufs, level, 0.1)
      near(shortTermLufs, level, 0.1)
      near(integratedLufs, level, 0.1)
    }
  })
  it('cases 3 to 5: what the gates leave out', () => {
    const third = steps([10, -36], [60, -23], [10, -36])
    const fourth = steps([10, -72], [10, -36], [60, -23], [10, -36], [10, -72])
    const fifth = steps([20, -26], [20.1, -20], [20, -26])
    for (const signal of cases([third, fourth, fifth], [fourth]))
      near(stereo(signal).integratedLufs, -23, 0.1)
  })
  it('case 6: five channels with their weights', () => {
    const [front, centre, surround] = [-28, -24, -30].map((level) => powersOf(steps([20, level])))
    const channels = [front!, front!, centre!, surround!, surround!]
    near(loudnessOf(channels, [1, 1, 1, 1.41, 1.41]).integratedLufs, -23, 0.1)
  })
  it('case 9: short-term loudness of a change that is as long as its window', () => {
    const parts = Array.from({ length: 5 }, () => [[1.34, -20] as const, [1.66, -30] as const]).flat()
    near(stereo(steps(...parts.map(([s, level]): [number, number] => [s, level]))).shortTermLufs, -23, 0.1)
  })
  it('cases 10 and 11: largest short-term loudness wherever the tone begins', () => {
    for (const segment of cases([...Array(20).keys()], [0, 7, 19])) {
      const beginS = segment * 0.15
      near(stereo(steps([beginS, -200], [3, -23], [1, -200])).shortTermLufs, -23, 0.1)
      near(
        stereo(steps([beginS, -200], [3, -38 + segment], [3 - beginS, -200])).shortTermLufs,
        -38 + segment,
        0.1,
      )
    }
  })
  it('case 12: momentary loudness of a change that is as long as its window', () => {
    const parts = Array.from({ length: 25 }, () => [[0.18, -20] as const, [0.22, -30] as const]).flat()
    near(stereo(steps(...parts.map(([s, level]): [number, number] => [s, level]))).momentaryLufs, -23, 0.1)
  })
  it('cases 13 and 14: largest momentary loudness wherever the tone begins', () => {
    for (let segment = 0; segment < 20; segment++) {
      const beginS = segment * 0.02
      near(stereo(steps([beginS, -200], [0.4, -23], [1, -200])).momentaryLufs, -23, 0.1)
      near(
        stereo(steps([beginS, -200], [0.4, -38 + segment], [0.4 - beginS, -200])).momentaryLufs,
        -38 + segment,
        0.1,
      )
    }
  })
  it('says nothing of silence and of what is too short', () => {
    expect(stereo(new Float32Array(rateHz)).integratedLufs).toBeNull()
    expect(stereo(steps([0.3, -20])).momentaryLufs).toBeNull()
  })
})

describe('loudness range of the signals of EBU Tech 3342', () => {
  it('cases 1 to 4', () => {
    near(stereo(steps([20, -20], [20, -30])).rangeLu, 10, 1)
    near(stereo(steps([20, -20], [20, -15])).rangeLu, 5, 1)
    near(stereo(steps([20, -40], [20, -20])).rangeLu, 20, 1)
    near(stereo(steps([20, -50], [20, -35], [20, -20], [20, -35], [20, -50])).rangeLu, 15, 1)
  })
})

describe('true peak of the signals of EBU Tech 3341', () => {
  const peakOf = (samples: Float32Array): number => {
    const meter = new TruePeak(rateHz)
    for (let from = 0; from < samples.length; from += 1009) meter.push(samples.subarray(from, from + 1009))
    return meter.finish()
  }
  /** A tone of a part of the rate that begins and ends softly, as the recommendation has it. */
  const tone = (divisor: number, phaseDegrees: number, amplitude: number, lengthS = 0.2): Float32Array => {
    const length = Math.round(lengthS * rateHz)
    return Float32Array.from({ length }, (_, frame) => {
      const edge = Math.min(1, frame / 480, (length - frame) / 480)
      return amplitude * edge * Math.sin((2 * Math.PI * frame) / divisor + (phaseDegrees * Math.PI) / 180)
    })
  }
  const within = (value: number, expected: number) => {
    expect(value, `${value} for ${expected}`).toBeLessThanOrEqual(expected + 0.2)
    expect(value, `${value} for ${expected}`).toBeGreaterThanOrEqual(expected - 0.4)
  }
  it('cases 15 to 19: tones whose samples miss the top', () => {
    within(peakOf(tone(4, 0, 0.5)), -6)
    within(peakOf(tone(4, 45, 0.5)), -6)
    within(peakOf(tone(6, 60, 0.5)), -6)
    within(peakOf(tone(8, 67.5, 0.5)), -6)
    within(peakOf(tone(4, 45, Math.SQRT2)), 3)
  })
  it('cases 20 to 23: a pulse between the samples, made at four times the rate', () => {
    for (const offset of [0, 1, 2, 3]) within(peakOf(pulse(offset)), 0)
  })
  it('passes over nothing: the same as looking everywhere', () => {
    let state = 1
    const next = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647 - 0.5
    for (let turn = 0; turn < cases(5, 1); turn++) {
      const rough = Float32Array.from({ length: 3000 }, (_, index) => next() * (index > 1500 ? 1 : 0.6))
      // nothing at half the rate itself: no wave is sampled there
      const samples = rough.map(
        (sample, index) => sample + 2 * (rough[index - 1] ?? 0) + (rough[index - 2] ?? 0),
      )
      expect(Math.abs(peakOf(samples) - densePeakDb(samples))).toBeLessThan(0.25)
    }
  })
})

/** A pulse held to the band, its top so many quarters of a sample away from a sample. */
function pulse(quarters: number): Float32Array {
  return Float32Array.from({ length: 9600 }, (_, frame) => {
    const x = frame - 4800 + quarters / 4
    return x === 0 ? 1 : (Math.sin(Math.PI * x) / (Math.PI * x)) * Math.cos((Math.PI * x) / 9700) ** 2
  })
}

/** The wave worked out in 16 places between any two samples from all samples near. */
function densePeakDb(samples: Float32Array): number {
  let peak = 0
  for (let place = 0; place < samples.length * 16; place++) {
    const at = place / 16
    let sum = 0
    for (let index = Math.max(0, Math.ceil(at) - 100); index < Math.min(samples.length, at + 100); index++) {
      const x = at - index
      sum +=
        samples[index]! *
        (x === 0 ? 1 : (Math.sin(Math.PI * x) / (Math.PI * x)) * Math.cos((Math.PI * x) / 202) ** 2)
    }
    peak = Math.max(peak, Math.abs(sum))
  }
  return 20 * Math.log10(peak)
}
