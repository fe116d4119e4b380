import { alignmentOf, drawnStretch, linesOf, thirdsOf, toneShape } from '../measure'
import { ClipMeter } from '../measure/clip-meter'
import { bytesSource, openClip, wavBytes } from '../media'
import * as made from '../signals'
import { amplitudeFromDb } from '../units'
import { type Outline, outlineOf } from './outline'

const rateHz = 48_000
const lengthS = 6
/** One voice for all clips: what is done to it differs. */
const voiceDbfs = -26
const { samples: voice } = made.speech({ lengthS, rateHz, seed: 3, levelDbfs: voiceDbfs, pitchHz: 128 })
const hiss = (overVoiceDb: number, seed: number) =>
  made.amplifierNoise({ lengthS, rateHz, seed, levelDbfs: voiceDbfs + overVoiceDb })
const spoken = made.mixed(voice, hiss(-46, 1))
const sound = (overVoiceDb: number, seed: number) => ({
  lengthS,
  rateHz,
  seed,
  levelDbfs: voiceDbfs + overVoiceDb,
})
const peak = voice.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
const underPeak = (db: number) => 20 * Math.log10(peak) - db

/** A voice with bent tops, hum and rustle at another rate. */
function atRate(hz: number): Float32Array {
  const place = { lengthS: 4, rateHz: hz, seed: 5, levelDbfs: voiceDbfs }
  const { samples } = made.speech({ ...place, pitchHz: 104 })
  const high = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
  return made.mixed(
    made.bend(samples, 20 * Math.log10(high) - 10),
    made.hum(samples.length, voiceDbfs - 32, 60, hz, 2),
    made.rustle(samples.length, voiceDbfs + 12, [{ fromS: 2.1, toS: 2.6 }], hz, 7),
    made.amplifierNoise({ ...place, levelDbfs: voiceDbfs - 50 }),
  )
}

/** Everything that is measured of a clip. */
async function measured(channels: readonly Float32Array[], ofHz = rateHz): Promise<unknown> {
  const frames = channels[0]!.length
  const meter = new ClipMeter({ channels: channels.length, rateHz: ofHz, bits: 24, frames })
  for (let from = 0; from < frames; from += 65_536)
    await meter.push(channels.map((samples) => samples.subarray(from, from + 65_536)))
  return meter.finish()
}

/** Short clips in which much of what is measured occurs, weak enough that every figure matters. */
const clips: Record<string, () => Float32Array[]> = {
  'hum, clicks and dropouts': () => {
    const places = [
      { fromS: 1.31, toS: 1.32 },
      { fromS: 4.2, toS: 4.26 },
    ]
    const dropped = made.mixed(made.dropOut(spoken, places, rateHz), hiss(-70, 5))
    const hummed = made.mixed(dropped, made.hum(voice.length, voiceDbfs - 34, 50.02, rateHz, 2))
    return [made.clicks(hummed, voiceDbfs - 4, [0.8, 2.9], rateHz)]
  },
  'wind and pops': () => {
    const gusts = made.wind(voice.length, voiceDbfs + 7, [{ fromS: 3.2, toS: 4.4 }], rateHz, 4)
    return [made.mixed(spoken, gusts, made.pops(voice.length, voiceDbfs + 8, [0.9, 1.9], rateHz, 6))]
  },
  rustle: () => {
    const places = [
      { fromS: 1.1, toS: 1.5 },
      { fromS: 3.9, toS: 4.3 },
    ]
    return [made.mixed(spoken, made.rustle(voice.length, voiceDbfs + 10, places, rateHz, 7))]
  },
  'bent tops': () => [made.mixed(made.bend(voice, underPeak(8)), hiss(-46, 1))],
  'sagging tops': () => [made.mixed(made.sag(voice, underPeak(8), 60, rateHz), hiss(-46, 1))],
  'tops cut flat': () => [made.mixed(made.cutFlat(voice, underPeak(4)), hiss(-46, 1))],
  'cut at full scale': () => [
    made.converted(
      spoken.map((sample) => (1.6 / peak) * sample),
      16,
      1,
    ),
  ],
  'automatic gain': () => {
    const manner = { lengthS: 9, rateHz, seed: 3, levelDbfs: voiceDbfs, pitchHz: 128 }
    const pauses = made.speech({ ...manner, pausesS: [1.6, 2.6] as [number, number] }).samples
    const noisy = made.mixed(pauses, made.amplifierNoise({ ...manner, levelDbfs: voiceDbfs - 46 }))
    return [made.pump(noisy, { targetDbfs: -36, mostGainDb: 40, attackS: 0.03, releaseS: 1.1 }, rateHz)]
  },
  'a delayed pair': () => [spoken, made.mixed(made.delayed(voice, 61.4), hiss(-40, 8))],
  'an upside-down pair': () => {
    const side = made.music(sound(-8, 9))
    return [spoken, voice.map((sample, index) => -(0.8 * sample + side[index]!))]
  },
  'one of two far lower': () => [
    spoken,
    made.mixed(
      voice.map((sample) => 0.3 * sample),
      hiss(-52, 11),
    ),
  ],
  'a tone with harmonics': () => [
    made.mixed(
      made.tone(997, -18, lengthS, rateHz),
      made.tone(1994, -58, lengthS, rateHz),
      made.tone(2991, -62, lengthS, rateHz),
      hiss(-60, 12),
    ),
  ],
  // so weak that it hangs on every limit whether they are found
  'faint hum, clicks and dropouts': () => {
    const places = [
      { fromS: 1.31, toS: 1.315 },
      { fromS: 2.704, toS: 2.711 },
      { fromS: 4.2, toS: 4.206 },
    ]
    const dropped = made.mixed(made.dropOut(spoken, places, rateHz), hiss(-64, 5))
    const hummed = made.mixed(dropped, made.hum(voice.length, voiceDbfs - 41, 59.97, rateHz, 2))
    return [made.clicks(hummed, voiceDbfs - 13, [0.8, 2.9, 3.3, 5.1], rateHz)]
  },
  'faint wind and pops': () => {
    const gusts = made.wind(voice.length, voiceDbfs + 1, [{ fromS: 3.2, toS: 4.4 }], rateHz, 14)
    return [made.mixed(spoken, gusts, made.pops(voice.length, voiceDbfs + 2, [0.9, 1.9, 5.1], rateHz, 16))]
  },
  'faint rustle': () => {
    const places = [
      { fromS: 1.1, toS: 1.3 },
      { fromS: 2.4, toS: 2.6 },
      { fromS: 3.9, toS: 4.1 },
    ]
    return [made.mixed(spoken, made.rustle(voice.length, voiceDbfs + 6, places, rateHz, 17))]
  },
  'tops pressed a little': () =>
    [
      made.bend(voice, underPeak(5)),
      made.sag(voice, underPeak(5), 60, rateHz),
      made.cutFlat(voice, underPeak(2.5)),
    ].map((pressed, index) => made.mixed(pressed, hiss(-44, 30 + index))),
  'one pause of automatic gain': () => {
    const held = spoken.map((sample, index) => (index > 3.6 * rateHz ? 0.001 * sample : sample))
    const noisy = made.mixed(held, hiss(-42, 23))
    return [made.pump(noisy, { targetDbfs: -40, mostGainDb: 22, attackS: 0.03, releaseS: 0.5 }, rateHz)]
  },
  'music and a street': () => [
    made.mixed(made.music(sound(0, 13)), hiss(-50, 14)),
    made.streetNoise(sound(-6, 15)).map((sample) => amplitudeFromDb(-3) * sample),
  ],
}

const soft = made.tone(997, -9, 0.35, rateHz)
const file = (samples: Float32Array) => bytesSource(wavBytes([samples], rateHz))
/** What is looked at in sound beside a clip's own measurement. */
const others: Record<string, () => unknown> = {
  'the shape of a tone': () =>
    [1.5, 3, 6].flatMap((byDb) =>
      [made.cutFlat(soft, -9 - byDb), made.bend(soft, -9 - byDb), made.sag(soft, -9 - byDb, 60, rateHz)].map(
        (samples) => toneShape(samples, 997, rateHz) ?? null,
      ),
    ),
  'lines and thirds': () => [linesOf(spoken, rateHz, 90), thirdsOf(spoken, rateHz)],
  'two clips of one moment': async () => {
    const clip = (samples: Float32Array) => openClip(file(samples), 'clip')
    const later = made.mixed(spoken.subarray(55_321), hiss(-40, 21).subarray(55_321))
    const both = [
      await alignmentOf(await clip(spoken), 0, await clip(later), 0),
      await alignmentOf(await clip(later), 0, await clip(spoken), 0),
    ]
    return both.map(({ offsetS, likeness }) => ({ offsetFrames: offsetS * rateHz, likeness }))
  },
  'a stretch, drawn': () => drawnStretch(file(spoken), 'clip', 1.234, 3.21, 77),
}

const outlined =
  (of: () => unknown): (() => Promise<Outline>) =>
  async () =>
    outlineOf(await of())

/** All of these in short, by name. */
export const clipFigures = new Map([
  ...Object.entries(clips).map(([name, make]) => [name, outlined(() => measured(make()))] as const),
  ...[16_000, 96_000].map((hz) => [`at ${hz} Hz`, outlined(() => measured([atRate(hz)], hz))] as const),
  ...Object.entries(others).map(([name, of]) => [name, outlined(of)] as const),
])
