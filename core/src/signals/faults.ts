import { amplitudeFromDb } from '../units'
import { filtered, highPass, lowPass } from './filters'
import { normal, random } from './random'

/** A stretch of a clip in which something is wrong. */
export interface Stretch {
  fromS: number
  toS: number
}

/** Cuts at a level, as a converter or an amplifier with much feedback does. */
export const cutFlat = (samples: Float32Array, ceilingDbfs: number): Float32Array => {
  const limit = amplitudeFromDb(ceilingDbfs)
  return samples.map((sample) => Math.max(-limit, Math.min(limit, sample)))
}

/**
 * Bends towards a level, as a soft amplifier does. `knee` 1 bends early (a transistor without feedback), larger ones
 * later: y = x / (1 + |x / c|^p)^(1/p).
 */
export const bend = (samples: Float32Array, ceilingDbfs: number, knee = 2.5): Float32Array => {
  const limit = amplitudeFromDb(ceilingDbfs)
  return samples.map((sample) => sample / (1 + Math.abs(sample / limit) ** knee) ** (1 / knee))
}

/** Cuts flat, then a coupling capacitor lets the tops sag: a high-pass of first order. */
export function sag(
  samples: Float32Array,
  ceilingDbfs: number,
  cornerHz: number,
  rateHz: number,
): Float32Array {
  const cut = cutFlat(samples, ceilingDbfs)
  const keep = Math.exp((-2 * Math.PI * cornerHz) / rateHz)
  let [before, value] = [0, 0]
  return cut.map((sample) => {
    value = keep * (value + sample - before)
    before = sample
    return value
  })
}

/** Hum of the mains with its harmonics: RMS of all of it re a full-scale sine. */
export function hum(
  frames: number,
  levelDbfs: number,
  mainsHz: number,
  rateHz: number,
  seed: number,
): Float32Array {
  const chance = random(seed)
  const harmonics = [1, 0.7, 0.5, 0.2, 0.25, 0.1, 0.15].map((size) => ({
    size: size * (0.6 + 0.8 * chance()),
    phase: 2 * Math.PI * chance(),
  }))
  const whole = Math.hypot(...harmonics.map(({ size }) => size))
  const scale = amplitudeFromDb(levelDbfs) / whole
  return Float32Array.from({ length: frames }, (_, index) =>
    harmonics.reduce(
      (sum, { size, phase }, harmonic) =>
        sum + scale * size * Math.sin((2 * Math.PI * mainsHz * (harmonic + 1) * index) / rateHz + phase),
      0,
    ),
  )
}

/** Wind on a microphone: gusts of very deep noise. Peak of the strongest gust in dBFS. */
export function wind(
  frames: number,
  peakDbfs: number,
  gusts: readonly Stretch[],
  rateHz: number,
  seed: number,
): Float32Array {
  const next = normal(random(seed))
  const noise = filtered(
    Float32Array.from({ length: frames }, () => next()),
    lowPass(28, rateHz),
    lowPass(90, rateHz, 0.5),
    highPass(6, rateHz),
  )
  return atPeak(
    noise.map((sample, index) => sample * gustAt(index / rateHz, gusts)),
    peakDbfs,
  )
}
/** A gust swells, flutters and dies. */
function gustAt(timeS: number, gusts: readonly Stretch[]): number {
  return gusts.reduce((sum, { fromS, toS }) => {
    if (timeS < fromS || timeS > toS) return sum
    const edge = Math.min(1, (timeS - fromS) / 0.08, (toS - timeS) / 0.15)
    return sum + edge * (0.75 + 0.25 * Math.sin(2 * Math.PI * 2.3 * (timeS - fromS)))
  }, 0)
}

/** Pops of breath: one deep swing each, 30 to 60 ms. */
export function pops(
  frames: number,
  peakDbfs: number,
  atS: readonly number[],
  rateHz: number,
  seed: number,
): Float32Array {
  const chance = random(seed)
  const samples = new Float32Array(frames)
  for (const at of atS) {
    const from = Math.round(at * rateHz)
    const turnS = 0.03 + 0.03 * chance()
    for (let index = 0; index < 2.5 * turnS * rateHz && from + index < frames; index++) {
      const time = index / rateHz
      samples[from + index]! +=
        Math.sin((2 * Math.PI * time) / turnS / 1.4) *
        Math.exp((-1.6 * time) / turnS) *
        Math.min(1, time / 0.004)
    }
  }
  return atPeak(samples, peakDbfs)
}

/** Cloth on a microphone: crackles of many sizes, close together. Peak in dBFS. */
export function rustle(
  frames: number,
  peakDbfs: number,
  where: readonly Stretch[],
  rateHz: number,
  seed: number,
): Float32Array {
  const chance = random(seed)
  const samples = new Float32Array(frames)
  for (const { fromS, toS } of where) {
    for (let at = fromS; at < toS; at += -Math.log(1 - chance()) * 0.0035) {
      const size = Math.exp(1.1 * (chance() + chance() + chance() - 1.5)) * (chance() < 0.5 ? 1 : -1)
      const index = Math.round(at * rateHz)
      const length = Math.round((0.0003 + 0.0009 * chance()) * rateHz)
      for (let k = 0; k < length && index + k < frames; k++) samples[index + k]! += size * (1 - k / length)
    }
  }
  return atPeak(filtered(samples, highPass(120, rateHz), lowPass(4500, rateHz, 0.6)), peakDbfs)
}

/** Brings the highest sample to a level. */
function atPeak(samples: Float32Array, peakDbfs: number): Float32Array {
  const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
  return samples.map((sample) => (peak ? (sample * amplitudeFromDb(peakDbfs)) / peak : 0))
}

/** A radio that loses its signal is muted. Noise of later stages is added afterwards. */
export const dropOut = (samples: Float32Array, where: readonly Stretch[], rateHz: number): Float32Array =>
  samples.map((sample, index) => {
    const time = index / rateHz
    return where.some(({ fromS, toS }) => time >= fromS && time < toS) ? 0 : sample
  })

/** Clicks of a plug or a spark: two or three samples each. */
export function clicks(
  samples: Float32Array,
  sizeDbfs: number,
  atS: readonly number[],
  rateHz: number,
): Float32Array {
  const out = samples.slice()
  for (const at of atS) {
    const index = Math.round(at * rateHz)
    const size = amplitudeFromDb(sizeDbfs)
    if (index + 2 >= out.length) continue
    out[index]! += size
    out[index + 1]! -= 0.7 * size
    out[index + 2]! += 0.2 * size
  }
  return out
}

/** Automatic gain of a plain kind. */
export interface PumpingGain {
  targetDbfs: number
  mostGainDb: number
  releaseS: number
  attackS: number
}
/** Automatic gain with a slow detector: down at once, up with the release; returns the recording. */
export function pump(
  samples: Float32Array,
  { targetDbfs, mostGainDb, releaseS, attackS }: PumpingGain,
  rateHz: number,
): Float32Array {
  const down = 1 - Math.exp(-1 / (attackS * rateHz))
  const up = 1 - Math.exp(-1 / (releaseS * rateHz))
  const listen = 1 - Math.exp(-1 / (0.03 * rateHz))
  let [power, gainDb] = [0, 0]
  return samples.map((sample) => {
    power += listen * (sample * sample - power)
    const askedDb = Math.min(mostGainDb, targetDbfs - 10 * Math.log10(2 * power + 1e-12))
    gainDb += (askedDb < gainDb ? down : up) * (askedDb - gainDb)
    return sample * amplitudeFromDb(gainDb)
  })
}
/** A compressor at work: fast, with a ratio, as people use it on purpose. */
export function compressed(
  samples: Float32Array,
  thresholdDbfs: number,
  ratio: number,
  rateHz: number,
): Float32Array {
  const attack = 1 - Math.exp(-1 / (0.005 * rateHz))
  const release = 1 - Math.exp(-1 / (0.12 * rateHz))
  let level = 0
  return samples.map((sample) => {
    const size = Math.abs(sample)
    level += (size > level ? attack : release) * (size - level)
    const overDb = Math.max(0, 20 * Math.log10(level + 1e-9) - thresholdDbfs)
    return sample * amplitudeFromDb(-overDb * (1 - 1 / ratio))
  })
}
/** As a converter of a word length writes it, with its dither. */
export function converted(samples: Float32Array, bits: number, seed: number): Float32Array {
  const chance = random(seed)
  const steps = 2 ** (bits - 1)
  return samples.map((sample) =>
    Math.max(-1, Math.min(1 - 1 / steps, Math.round(sample * steps + chance() - chance()) / steps)),
  )
}
/** Later by some samples, also by parts of one (a windowed sinc of 32 samples). */
export function delayed(samples: Float32Array, byFrames: number): Float32Array {
  const whole = Math.floor(byFrames)
  const part = byFrames - whole
  const taps = Array.from({ length: 32 }, (_, index) => {
    const x = index - 15 - part
    const window = 0.5 + 0.5 * Math.cos((Math.PI * x) / 17)
    return (Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window
  })
  return samples.map((_, index) =>
    taps.reduce((sum, tap, k) => sum + tap * (samples[index - whole - k + 15] ?? 0), 0),
  )
}
