import { expose, transfer } from 'comlink'
import { standInCard } from '@iron-hush/core/card'
import { markLevel, type RecordRequest, standInDevice } from '@iron-hush/core/devices'
import { clipReadingOf, type LineUpStep, reverberationOf, roomNoiseOf } from '@iron-hush/core/lineup'
import {
  type Alignment,
  alignmentOf,
  type ClipSoFar,
  drawnStretch,
  heardIn,
  linesOf,
  measureClip,
  samplesOfStretch,
} from '@iron-hush/core/measure'
import { type ByteSource, openClip, wavBytes } from '@iron-hush/core/media'
import {
  type Gear,
  known,
  type Measurement,
  type Patch,
  Refusal,
  shelfOf,
  type StandIn,
} from '@iron-hush/core/model'
import { testSignal, type TestSignal } from '@iron-hush/core/signals'
import { beginHelper } from './helper'
import { type Listening, type Rendered, renderTrack } from './listening'
import { answered, type Told } from './told'

const fileSource = (file: Blob): ByteSource => ({
  size: file.size,
  async read(offset, length) {
    try {
      return new Uint8Array(await file.slice(offset, offset + length).arrayBuffer())
    } catch {
      const name = 'name' in file && typeof file.name === 'string' ? file.name : 'The clip'
      throw new Refusal(
        `${name} cannot be read any more: it was moved or changed, or its card was removed. Add it again.`,
      )
    }
  },
})

/** A channel of a clip, from 0. */
export interface ClipChannel {
  id: string
  file: Blob
  name: string
  channel: number
}
const signalRateHz = 48_000
const offsetIn = (fromS: number, rateHz: number): number => Math.round(Math.max(0, -fromS) * rateHz)

/** Interval of progress reports, ms; the first comes at once. */
const reportEveryMs = 120

/** Jobs on sound. One job per worker: to cancel, terminate the worker. */
const api = {
  listen: (patches: Patch[], listening: Listening, gear: Gear[], progress: (share: number) => void) =>
    answered(async () => {
      const shown = patches.map(() => 0)
      const sides = patches.map((patch, index) =>
        renderTrack(patch, shelfOf(gear), listening, (share) => {
          if (share - shown[index]! < 0.1) return
          shown[index] = share
          progress((index + share) / patches.length)
        }),
      )
      return transfer(
        sides,
        sides.map(({ samples }) => samples.buffer),
      )
    }),
  measure: (
    file: Blob,
    name: string,
    progress: (share: number, soFar: ClipSoFar) => void,
  ): Promise<Told<Measurement>> =>
    answered(async () => {
      let toldMs = -Infinity
      const watch = (share: number, soFar: ClipSoFar) => {
        const now = performance.now()
        if (now - toldMs < reportEveryMs && share < 1) return
        toldMs = now
        progress(share, soFar)
      }
      return known(
        await measureClip(fileSource(file), name, { progress: watch, helper: beginHelper }),
        'a measurement that nobody cancels',
      )
    }),
  drawn: (file: Blob, name: string, fromS: number, toS: number, slices: number) =>
    answered(() => drawnStretch(fileSource(file), name, fromS, toS, slices)),
  heard: (file: Blob, name: string, fromS: number, toS: number) =>
    answered(async () => {
      const stretch = await samplesOfStretch(fileSource(file), name, fromS, toS)
      return transfer(
        stretch,
        stretch.channels.map(({ buffer }) => buffer),
      )
    }),
  /** How two channels lie beside each other; of one file as they are. */
  aligned: (one: ClipChannel, other: ClipChannel): Promise<Told<Alignment>> =>
    answered(async () => {
      if (one.file === other.file || one.id === other.id) return { offsetS: 0, likeness: 1, isSame: true }
      const [first, second] = await Promise.all(
        [one, other].map(({ file, name }) => openClip(fileSource(file), name)),
      )
      return alignmentOf(
        known(first, 'the first clip'),
        one.channel,
        known(second, 'the second clip'),
        other.channel,
      )
    }),
  /** The spectrum of a stretch of one channel, as a number of lines. */
  lines: ({ file, name, channel }: ClipChannel, fromS: number, toS: number, points: number) =>
    answered(async () => {
      const { rateHz, channels } = await samplesOfStretch(fileSource(file), name, fromS, toS)
      return linesOf(known(channels[channel], 'a channel of the clip'), rateHz, points)
    }),
  /** A stretch of one channel, with how it is heard. */
  channelHeard: ({ file, name, channel }: ClipChannel, fromS: number, toS: number): Promise<Told<Rendered>> =>
    answered(async () => {
      const { rateHz, channels } = await samplesOfStretch(fileSource(file), name, Math.max(0, fromS), toS)
      const stretch = known(channels[channel], 'a channel of the clip')
      // before the beginning of the clip there is silence
      const samples = new Float32Array(Math.round((toS - fromS) * rateHz))
      const offset = Math.min(samples.length, offsetIn(fromS, rateHz))
      samples.set(stretch.subarray(0, samples.length - offset), offset)
      return transfer({ samples, rateHz, heard: heardIn(samples, rateHz) }, [samples.buffer])
    }),
  /** A stand-in's recording of a scene, as WAV. */
  recordStandIn: (
    patch: Patch,
    gear: Gear[],
    devices: readonly StandIn[],
    { seed, ...request }: RecordRequest & { seed: number },
  ) =>
    answered(async () => {
      const clip = await standInDevice(patch, shelfOf(gear), devices, request.box, seed).record(request)
      return transfer(clip, [clip.bytes.buffer])
    }),
  /** Meter readings of a stand-in. */
  standInMeters: (patch: Patch, gear: Gear[], devices: readonly StandIn[], request: RecordRequest) =>
    answered(() => standInDevice(patch, shelfOf(gear), devices, request.box).readMeters(request)),
  /** The level of the tone at which a mark of a stand-in lights. */
  standInMark: (
    patch: Patch,
    gear: Gear[],
    devices: readonly StandIn[],
    request: RecordRequest,
    mark: string,
  ) => answered(() => markLevel(standInDevice(patch, shelfOf(gear), devices, request.box), request, mark)),
  /** Readings of a clip recorded for a step of the line-up. */
  clipReading: (file: Blob, name: string, channel: number, step: Pick<LineUpStep, 'expect'>) =>
    answered(() => clipReadingOf(fileSource(file), name, channel, step)),
  /** Room acoustics from a clap and ten seconds without speech. */
  reverberation: (samples: Float32Array, rateHz: number) => reverberationOf(samples, rateHz),
  roomNoise: (samples: Float32Array, rateHz: number) => roomNoiseOf(samples, rateHz),
  signal: (signal: TestSignal, rateHz: number) => {
    const samples = testSignal(signal, rateHz)
    return transfer(samples, [samples.buffer])
  },
  /** The same as the bytes of a WAV file. */
  signalFile: (signal: TestSignal) => {
    const bytes = wavBytes([testSignal(signal, signalRateHz)], signalRateHz, 24)
    return transfer(bytes, [bytes.buffer])
  },
  card: async (made: (name: string, bytes: Uint8Array) => void | Promise<void>): Promise<void> => {
    // each has arrived before the work counts as done
    for (const { name, bytes } of standInCard) await made(name, await bytes())
  },
}
export type SoundApi = typeof api

expose(api)
