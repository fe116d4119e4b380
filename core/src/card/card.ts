import { broadcastChunk, ixmlChunk, movBytes, wavBytes } from '../media'
import { amplitudeFromDb } from '../units'
import {
  amplifierNoise,
  bend,
  cutFlat,
  dropOut,
  hum,
  mixed,
  pump,
  roomNoise,
  rustle,
  speech,
  strikes,
  wind,
} from '../signals'

/** A clip of the stand-in card: as one of the foundry's devices would have written it. */
export interface CardClip {
  name: string
  /** Its known faults, for checking the findings. */
  holds: string
  bytes: () => Promise<Uint8Array>
}

const rateHz = 48_000
const lengthS = 12
const noiseAt = (levelDbfs: number, seed: number) => amplifierNoise({ lengthS, rateHz, seed, levelDbfs })
const talk = (levelDbfs: number, seed: number, pitchHz = 118) =>
  speech({ lengthS, rateHz, seed, levelDbfs, pitchHz }).samples
const room = (levelDbfs: number, seed: number) => roomNoise({ lengthS, rateHz, seed, levelDbfs })
const louder = (samples: Float32Array, byDb: number) =>
  samples.map((sample) => sample * amplitudeFromDb(byDb))

/** As the foundry's recorder writes a file: with the time of its clock, the take and the names of the tracks. */
const recorded = (
  channels: readonly Float32Array[],
  [scene, take, startS]: readonly [string, number, number],
  tracks: readonly string[],
): Uint8Array => {
  const hours = String(Math.floor(startS / 3600)).padStart(2, '0')
  const minutes = String(Math.floor(startS / 60) % 60).padStart(2, '0')
  const texts = broadcastChunk(
    {
      description: `${scene}, take ${take}`,
      writtenBy: 'foundry recorder',
      date: '2026-03-14',
      time: `${hours}:${minutes}:00`,
      startS,
    },
    rateHz,
  )
  const list = tracks.map(
    (name, index) => `<TRACK><CHANNEL_INDEX>${index + 1}</CHANNEL_INDEX><NAME>${name}</NAME></TRACK>`,
  )
  const names = ixmlChunk(
    `<SCENE>${scene}</SCENE><TAKE>${take}</TAKE><TRACK_LIST>${list.join('')}</TRACK_LIST>`,
  )
  return wavBytes(channels, rateHz, 24, 'integer', [texts, names])
}

/**
 * The contents of a card after a day at the foundry: made when asked for, by arithmetic, so that nothing large is shipped.
 * Nobody was recorded.
 */
export const standInCard: readonly CardClip[] = [
  {
    name: 'recorder F-0131.wav',
    holds: 'the founder at the bench, clean, with a safety track 12 dB lower',
    bytes: () => {
      const boom = mixed(talk(-26, 11), room(-62, 12), noiseAt(-74, 13))
      return Promise.resolve(
        recorded(
          [boom, louder(boom, -12)],
          ['The founder at the bench', 1, 36_120],
          ['Boom', 'Boom, safety'],
        ),
      )
    },
  },
  {
    name: 'camera C-0042.mov',
    holds: 'the tuning: strikes bend in the first amplifier of the camera',
    bytes: () => {
      const bells = louder(strikes({ lengthS, rateHz, seed: 5, levelDbfs: -14 }), 9)
      const bent = bend(mixed(bells, talk(-28, 14)), -7.8)
      return movBytes([mixed(bent, noiseAt(-66, 15)), mixed(bent, noiseAt(-66, 16))], rateHz)
    },
  },
  {
    name: 'camera C-0043.mov',
    holds: 'the town hall: hum of the mains from a ground loop',
    bytes: () => {
      const desk = mixed(talk(-24, 17, 175), hum(lengthS * rateHz, -52, 50, rateHz, 18), noiseAt(-68, 19))
      return movBytes([desk], rateHz, 'pcm-s16be')
    },
  },
  {
    name: 'recorder F-0132.wav',
    holds: 'two microphones, one of them with its polarity reversed',
    bytes: () => {
      const one = talk(-25, 20, 140)
      const turned = mixed(louder(one, -2), room(-58, 21)).map((sample) => -sample)
      return Promise.resolve(
        recorded(
          [mixed(one, noiseAt(-70, 22)), mixed(turned, noiseAt(-70, 23))],
          ['Bells in the town hall', 1, 52_860],
          ['Boom', 'Desk'],
        ),
      )
    },
  },
  {
    name: 'camera C-0044.mov',
    holds: 'the pour: automatic gain that comes up in every pause',
    bytes: () => {
      const { samples } = speech({
        lengthS,
        rateHz,
        seed: 24,
        levelDbfs: -34,
        pitchHz: 130,
        pausesS: [1.5, 2.4],
      })
      const quiet = mixed(samples, noiseAt(-66, 25))
      return movBytes(
        [pump(quiet, { targetDbfs: -32, mostGainDb: 36, attackS: 0.03, releaseS: 1.4 }, rateHz)],
        rateHz,
      )
    },
  },
  {
    name: 'receiver R-0007.wav',
    holds: 'the pour by radio: dropouts, and the apron rustles',
    bytes: () => {
      const voice = mixed(talk(-25, 26, 105), noiseAt(-62, 27))
      const cloth = rustle(
        voice.length,
        -14,
        [
          { fromS: 2.2, toS: 2.7 },
          { fromS: 7.1, toS: 7.8 },
        ],
        rateHz,
        28,
      )
      const gone = [
        { fromS: 4.31, toS: 4.35 },
        { fromS: 9.02, toS: 9.14 },
      ]
      return Promise.resolve(
        wavBytes([mixed(dropOut(mixed(voice, cloth), gone, rateHz), noiseAt(-92, 29))], rateHz),
      )
    },
  },
  {
    name: 'phone P-0009.wav',
    holds: 'the yard: wind, and crests cut flat where someone calls',
    bytes: () => {
      const gusts = [
        { fromS: 3, toS: 4.4 },
        { fromS: 8.2, toS: 9.5 },
      ]
      const yard = mixed(talk(-14, 30, 190), wind(lengthS * rateHz, -13, gusts, rateHz, 31), room(-50, 32))
      return Promise.resolve(wavBytes([mixed(cutFlat(yard, -6), noiseAt(-60, 33))], rateHz, 16))
    },
  },
]
