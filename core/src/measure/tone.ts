import type { Tone } from '../model'
import { powerDb } from '../units'
import type { Excerpt } from './excerpts'
import { transform } from './fourier'

/** Least share of the excerpts that contain the tone, and of their power that it makes up. */
const mostOfTime = 0.7
const mostOfPower = 0.9
const lobe = 3

/** Whether a channel holds a test tone. */
export function toneIn(excerpts: readonly Excerpt[], channel: number, rateHz: number): Tone | undefined {
  const found = excerpts.flatMap(({ channels }) => toneOf(channels[channel]!, rateHz) ?? [])
  if (found.length < Math.max(2, mostOfTime * excerpts.length)) return undefined
  const sorted = [...found].sort((one, other) => one.hz - other.hz)
  const middle = sorted[Math.floor(sorted.length / 2)]!
  const same = found.filter(({ hz }) => Math.abs(hz / middle.hz - 1) < 0.005)
  if (same.length < mostOfTime * excerpts.length) return undefined
  const mean = (pick: (tone: Tone) => number) => same.reduce((sum, tone) => sum + pick(tone), 0) / same.length
  return {
    hz: middle.hz,
    levelDbfs: mean((tone) => tone.levelDbfs),
    distortionDb: mean((tone) => tone.distortionDb),
  }
}

function toneOf(samples: Float32Array, rateHz: number): Tone | undefined {
  const size = samples.length
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  for (let index = 0; index < size; index++)
    re[index] = samples[index]! * (1 - Math.cos((2 * Math.PI * (index + 0.5)) / size))
  transform(re, im)
  const power = Float64Array.from({ length: size / 2 }, (_, bin) => re[bin]! ** 2 + im[bin]! ** 2)
  let top = 2
  for (let bin = 2; bin < power.length - 2; bin++) if (power[bin]! > power[top]!) top = bin
  const around = (bin: number) => {
    let sum = 0
    for (let near = Math.max(1, bin - lobe); near <= Math.min(power.length - 1, bin + lobe); near++)
      sum += power[near]!
    return sum
  }
  const all = power.reduce((sum, each) => sum + each, 0)
  const main = around(top)
  let distortion = 0
  const logOf = (bin: number) => Math.log(Math.max(1e-30, power[bin]!))
  const curve = logOf(top - 1) - 2 * logOf(top) + logOf(top + 1)
  const at = top + (curve ? (0.5 * (logOf(top - 1) - logOf(top + 1))) / curve : 0)
  for (let harmonic = 2; harmonic <= 7 && harmonic * at < power.length - lobe; harmonic++)
    distortion += around(Math.round(harmonic * at))
  if (main + distortion < mostOfPower * all || all === 0) return undefined
  // a Hann window of mean 1 leaves 1.5 of the power; a sine of amplitude 1 is 0 dBFS
  return {
    hz: (at * rateHz) / size,
    levelDbfs: powerDb((4 * main) / 1.5 / (size * size)),
    distortionDb: powerDb(Math.max(distortion, 1e-20) / main),
  }
}
