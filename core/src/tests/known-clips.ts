import * as made from '../signals'
import { amplitudeDb, amplitudeFromDb } from '../units'

/** A clip of which is known what is wrong with it, because it was made so. */
export interface KnownClip {
  kind: string
  /** How strong the fault is, in words with a figure; empty for a clean one. */
  strength: string
  rateHz: number
  bits: number
  channels: Float32Array[]
  /** What a meter should say; undefined: nothing. */
  truth?: Truth
}
export interface Truth {
  /** Code of the fault, or `clip` with a shape. */
  code: string
  shape?: string
  ceilingDbfs?: number
  levelDbfs?: number
  mainsHz?: number
  releaseS?: number
  delayFrames?: number
  places?: readonly made.Stretch[]
}

const lengthS = 7
const rates = [48_000, 44_100, 96_000] as const
const depths = [24, 16, 24] as const

/** What varies from one clip to the next. */
interface Ground {
  seed: number
  rateHz: number
  bits: number
  levelDbfs: number
  voice: Float32Array
  noise: Float32Array
  chance: () => number
}

function groundOf(seed: number, more: Partial<made.Manner> = {}): Ground {
  const rateHz = rates[seed % 3]!
  const levelDbfs = -21 - (seed % 4) * 5
  const manner = { lengthS, rateHz, seed, levelDbfs, pitchHz: 95 + (seed % 9) * 17, ...more }
  const { samples } = made.speech(manner)
  return {
    seed,
    rateHz,
    bits: depths[seed % 3]!,
    levelDbfs,
    voice: samples,
    noise: made.amplifierNoise({
      lengthS: manner.lengthS,
      rateHz,
      seed: seed + 1000,
      levelDbfs: levelDbfs - 34 - (seed % 5) * 5,
    }),
    chance: made.random(seed + 77),
  }
}
const peakDb = (samples: Float32Array): number =>
  amplitudeDb(samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))

/** As it was written: one channel or more, through a converter. */
const written = (
  ground: Ground,
  kind: string,
  strength: string,
  channels: readonly Float32Array[],
  truth?: Truth,
): KnownClip => ({
  kind,
  strength,
  rateHz: ground.rateHz,
  bits: ground.bits,
  channels: channels.map((samples, index) => made.converted(samples, ground.bits, ground.seed + index)),
  truth,
})

type Maker = (seed: number) => KnownClip

/** Crests pressed by an amplifier, so many dB under where they would reach; noise comes after it. */
const pressed =
  (
    shape: string,
    byDb: number,
    press: (samples: Float32Array, ceilingDbfs: number, rateHz: number) => Float32Array,
  ): Maker =>
  (seed) => {
    const ground = groundOf(seed)
    const ceilingDbfs = peakDb(ground.voice) - byDb
    return written(
      ground,
      shape,
      `${byDb} dB`,
      [made.mixed(press(ground.voice, ceilingDbfs, ground.rateHz), ground.noise)],
      {
        code: 'clip',
        shape,
        ceilingDbfs,
      },
    )
  }
/** Somebody speaks over the noise of the amplifier, and something is done to it. */
const spoken =
  (
    kind: string,
    strength: string,
    done: (sound: Float32Array, ground: Ground) => { sound: Float32Array; truth: Omit<Truth, 'code'> },
    manner: Partial<made.Manner> = {},
  ): Maker =>
  (seed) => {
    const ground = groundOf(seed, manner)
    const { sound, truth } = done(made.mixed(ground.voice, ground.noise), ground)
    return written(ground, kind, strength, [sound], { code: kind, ...truth })
  }
/** Moments near given ones, another for every clip. */
const near = (times: readonly number[], { chance }: Ground, spreadS: number): number[] =>
  times.map((at) => at + spreadS * chance())
const stretches = (beginS: readonly number[], lengths: () => number): made.Stretch[] =>
  beginS.map((fromS) => ({ fromS, toS: fromS + lengths() }))

const hum = (underSpeechDb: number): Maker =>
  spoken('hum', `${underSpeechDb} dB under speech`, (sound, { seed, rateHz, levelDbfs, chance }) => {
    const mainsHz = seed % 2 ? 50 : 60
    const drift = 1 + 0.001 * (chance() - 0.5)
    const level = levelDbfs - underSpeechDb
    return {
      sound: made.mixed(sound, made.hum(sound.length, level, mainsHz * drift, rateHz, seed)),
      truth: { levelDbfs: level, mainsHz },
    }
  })
const windAt = (overSpeechDb: number): Maker =>
  spoken('wind', `peaks ${overSpeechDb} dB over speech`, (sound, ground) => {
    const { rateHz, levelDbfs, seed, chance } = ground
    const places = stretches(near([1, 3.5], ground, 1), () => 0.5 + chance())
    const gusts = made.wind(sound.length, levelDbfs + overSpeechDb, places, rateHz, seed)
    return { sound: made.mixed(sound, gusts), truth: { places } }
  })
const popsAt = (overSpeechDb: number): Maker =>
  spoken('pop', `${overSpeechDb} dB over speech`, (sound, ground) => {
    const { rateHz, levelDbfs, seed } = ground
    const times = near([1.2, 2.9, 4.8], ground, 0.5)
    const swings = made.pops(sound.length, levelDbfs + overSpeechDb, times, rateHz, seed)
    return { sound: made.mixed(sound, swings), truth: { places: stretches(times, () => 0.06) } }
  })
const rustleAt = (overSpeechDb: number): Maker =>
  spoken('rustle', `peaks ${overSpeechDb} dB over speech`, (sound, ground) => {
    const { rateHz, levelDbfs, seed, chance } = ground
    const places = stretches(near([0.9, 2.8, 4.6], ground, 0.6), () => 0.15 + 0.5 * chance())
    const cloth = made.rustle(sound.length, levelDbfs + overSpeechDb, places, rateHz, seed)
    return { sound: made.mixed(sound, cloth), truth: { places } }
  })
const dropoutsOf = (ms: number): Maker =>
  spoken('dropout', `${ms} ms`, (radio, ground) => {
    const { rateHz, levelDbfs, seed } = ground
    const places = stretches(near([1.1, 2.6, 4.3], ground, 0.8), () => ms / 1000)
    // the radio has noise of its own; what comes after it has less
    const after = made.amplifierNoise({ lengthS, rateHz, seed: seed + 5, levelDbfs: levelDbfs - 70 })
    return { sound: made.mixed(made.dropOut(radio, places, rateHz), after), truth: { places } }
  })
const clicksAt = (overSpeechDb: number): Maker =>
  spoken('click', `${overSpeechDb} dB re speech`, (sound, ground) => {
    const times = near([0.8, 2.2, 3.9, 5.6], ground, 0.4)
    return {
      sound: made.clicks(sound, ground.levelDbfs + overSpeechDb, times, ground.rateHz),
      truth: { places: stretches(times, () => 0.001) },
    }
  })
function underFullScale(samples: Float32Array): Float32Array {
  const byDb = Math.min(0, -2 - peakDb(samples))
  return samples.map((sample) => sample * amplitudeFromDb(byDb))
}
const pumpingBy = (releaseS: number): Maker =>
  spoken(
    'pumping',
    `release ${releaseS} s`,
    (sound, { rateHz }) => ({
      // what comes after a pause must not be cut at full scale besides
      sound: underFullScale(
        made.pump(sound, { targetDbfs: -36, mostGainDb: 40, attackS: 0.03, releaseS }, rateHz),
      ),
      truth: { releaseS },
    }),
    // pauses in which the gain has time to come up
    { lengthS: 14, pausesS: [1.6, 2.6] },
  )

/** Two channels of one sound, the second changed. */
const pair =
  (
    kind: string,
    strength: string,
    second: (samples: Float32Array, ground: Ground) => Float32Array,
    truth: (ground: Ground) => Truth,
  ): Maker =>
  (seed) => {
    const ground = groundOf(seed)
    const other = made.amplifierNoise({
      lengthS,
      rateHz: ground.rateHz,
      seed: seed + 3,
      levelDbfs: ground.levelDbfs - 45,
    })
    return written(
      ground,
      kind,
      strength,
      [made.mixed(ground.voice, ground.noise), made.mixed(second(ground.voice, ground), other)],
      truth(ground),
    )
  }
const delay = (ms: number): Maker =>
  pair(
    'channels delayed',
    `${ms} ms`,
    (samples, { rateHz }) => made.delayed(samples, (ms / 1000) * rateHz),
    ({ rateHz }) => ({ code: 'channels delayed', delayFrames: (ms / 1000) * rateHz }),
  )

const cutBy = (byDb: number): Maker =>
  pressed('flat below full scale', byDb, (samples, ceiling) => made.cutFlat(samples, ceiling))
const bentBy = (byDb: number): Maker =>
  pressed('bent', byDb, (samples, ceiling) => made.bend(samples, ceiling))
const saggingBy = (byDb: number): Maker =>
  pressed('sagging', byDb, (samples, ceiling, rateHz) => made.sag(samples, ceiling, 60, rateHz))

/** Of most kinds one, so strong that everything about it must be right. */
export const plain: readonly Maker[] = [
  cutBy(5),
  bentBy(12),
  saggingBy(8),
  hum(20),
  windAt(12),
  popsAt(12),
  dropoutsOf(20),
  clicksAt(0),
  pumpingBy(1.5),
  delay(2),
]

/** Faults at several strengths; a clip for each seed. */
export const faulty: readonly Maker[] = [
  ...[3, 5, 8].map(cutBy),
  ...[5, 8, 12].map(bentBy),
  ...[5, 8, 12].map(saggingBy),
  (seed) => {
    const ground = groundOf(seed)
    const gain = amplitudeFromDb(4 - peakDb(ground.voice))
    const hot = ground.voice.map((sample) => sample * gain)
    return written(ground, 'flat at full scale', '4 dB', [made.mixed(hot, ground.noise)], {
      code: 'clip',
      shape: 'flat at full scale',
      ceilingDbfs: 0,
    })
  },
  ...[20, 30, 40].map(hum),
  ...[0, 6, 12].map(windAt),
  ...[0, 6, 12].map(popsAt),
  ...[6, 12, 18].map(rustleAt),
  ...[5, 20, 100].map(dropoutsOf),
  ...[-14, -6, 0].map(clicksAt),
  ...[0.6, 1.5, 3].map(pumpingBy),
  ...[0.4, 2, 11].map(delay),
  pair(
    'channels opposite',
    'whole',
    (samples) => samples.map((sample) => -sample),
    () => ({ code: 'channels opposite' }),
  ),
  pair(
    'channels opposite',
    'stereo',
    (samples, { seed, rateHz, levelDbfs }) => {
      const side = made.music({ lengthS, rateHz, seed, levelDbfs: levelDbfs - 8 })
      return samples.map((sample, index) => -(0.8 * sample + side[index]!))
    },
    () => ({ code: 'channels opposite' }),
  ),
  pair(
    'one channel silent',
    'noise only',
    (samples) => new Float32Array(samples.length),
    () => ({ code: 'one channel silent' }),
  ),
]

const one =
  (kind: string, sound: (ground: Ground) => Float32Array): Maker =>
  (seed) => {
    const ground = groundOf(seed)
    return written(ground, kind, '', [sound(ground)])
  }
const place = ({ seed, rateHz, levelDbfs }: Ground, overDb = 0): made.Sound => ({
  lengthS,
  rateHz,
  seed,
  levelDbfs: levelDbfs + overDb,
})

/** Clips that nothing is wrong with. */
export const clean: readonly Maker[] = [
  one('speech', (ground) => made.mixed(ground.voice, ground.noise)),
  one('speech in a room', (ground) =>
    made.mixed(ground.voice, made.roomNoise(place(ground, -32)), ground.noise),
  ),
  one('whisper', (ground) => {
    const { samples } = made.speech({ ...place(ground, -10), whispered: true })
    return made.mixed(samples, ground.noise)
  }),
  one('speech over music', (ground) =>
    made.mixed(ground.voice, ground.noise, made.music(place(ground, -12))),
  ),
  one('music', (ground) => made.mixed(made.music(place(ground)), ground.noise)),
  one('strikes', (ground) => made.mixed(made.strikes(place(ground)), ground.noise)),
  one('street', (ground) => made.mixed(made.streetNoise(place(ground, -6)), ground.noise)),
  one('speech in a street', (ground) =>
    made.mixed(ground.voice, made.streetNoise(place(ground, -20)), ground.noise),
  ),
  one('a compressor', (ground) =>
    made.mixed(
      made.compressed(made.mixed(ground.voice, ground.noise), ground.levelDbfs - 8, 4, ground.rateHz),
    ),
  ),
  one('very low', (ground) =>
    made.mixed(ground.voice, ground.noise).map((sample) => sample * amplitudeFromDb(-30)),
  ),
  one('a fade', (ground) => {
    const sound = made.mixed(ground.voice, ground.noise)
    return sound.map(
      (sample, index) => sample * Math.min(1, index / sound.length / 0.3, (1 - index / sound.length) / 0.3),
    )
  }),
  one('a test tone', ({ rateHz, levelDbfs, seed }) =>
    made.tone(200 + 100 * (seed % 12), levelDbfs, lengthS, rateHz),
  ),
  one('noise', (ground) => made.amplifierNoise(place(ground))),
  (seed) => {
    const ground = groundOf(seed)
    const side = made.music(place(ground, -8))
    return written(ground, 'stereo', '', [
      made.mixed(ground.voice, ground.noise, side),
      made.mixed(
        ground.voice.map((sample) => 0.7 * sample),
        ground.noise.map((sample) => -sample),
        made.delayed(side, 37),
      ),
    ])
  },
]
