import { expose, transfer } from 'comlink'
import Papa from 'papaparse'
import { findWays, type Way, type WaySearch } from '@iron-hush/core/circuit'
import { balance, type Cure, curesOf, oddsOf, saferPlan, schoolsOf } from '@iron-hush/core/balance'
import { type ByteSource, openClip, wavBytes } from '@iron-hush/core/media'
import {
  type Alignment,
  alignmentOf,
  drawnStretch,
  heardIn,
  linesOf,
  measureClip,
  samplesOfStretch,
  type ClipSoFar,
} from '@iron-hush/core/measure'
import {
  type ChannelMeasurement,
  type Gear,
  type Link,
  type MeasureAnswer,
  type Measurement,
  type Patch,
  type ProofRecord,
  Refusal,
  type StandIn,
  shelfOf,
  known,
} from '@iron-hush/core/model'
import { type KitOption, kitOptions, planScene, type Question } from '@iron-hush/core/plan'
import { measureAnswer, readGearCsv, readGearJson } from '@iron-hush/core/report'
import { standInCard } from '@iron-hush/core/card'
import { markLevel, type RecordRequest, standInDevice } from '@iron-hush/core/devices'
import { clipReadingOf, type LineUpStep, reverberationOf, roomNoiseOf } from '@iron-hush/core/lineup'
import { testSignal, type TestSignal } from '@iron-hush/core/signals'
import { beginHelper } from './helper'
import { reporting } from './reporting'
import { type Listening, type Rendered, renderTrack } from './listening'
import { type End, type EndOffer, explanationsOf, offersAtEnd } from '@iron-hush/core/advice'
import { levelsOfPatch } from '@iron-hush/core/levels'

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

/** A refusal does not survive the way out of a worker as what it is: it goes as its sentence. */
type Told<T> = { value: T } | { refused: string }

async function answered<T>(work: () => Promise<T>): Promise<Told<T>> {
  try {
    return { value: await work() }
  } catch (error) {
    if (error instanceof Refusal) return { refused: error.message }
    throw error
  }
}

/** A channel of a clip, from 0. */
export interface ClipChannel {
  id: string
  file: Blob
  name: string
  channel: number
}
const signalRateHz = 48_000
const offsetIn = (fromS: number, rateHz: number): number => Math.round(Math.max(0, -fromS) * rateHz)

/** How a reading goes on is reported this often, and first at once. */
const toldEveryMs = 120

/** What can take longer than a frame. One job a worker: to cancel, end the worker. */
const api = {
  balance: (patch: Patch, gear: Gear[]) =>
    answered(async () => known(balance(patch, shelfOf(gear)), 'a balance that nobody cancels')),
  cures: (patch: Patch, gear: Gear[], progress: (share: number, cure?: Cure) => void) =>
    reporting(progress, (report) =>
      known(curesOf(patch, shelfOf(gear), { progress: report }), 'cures that nobody cancels'),
    ),
  safer: (patch: Patch, gear: Gear[], limit: number, draws: number, seed: number) =>
    saferPlan(patch, shelfOf(gear), limit, draws, seed),
  findWays: (patch: Patch, link: Link, gear: Gear[], search: WaySearch, found: (way: Way) => void) =>
    reporting(found, (report) => findWays(patch, link, shelfOf(gear), { ...search, found: report })),
  offersAtEnd: (patch: Patch, end: End, gear: Gear[], found: (offer: EndOffer) => void) =>
    reporting(found, (report) => offersAtEnd(patch, end, shelfOf(gear), report)),
  explanations: (measured: ChannelMeasurement, runId: string, patch: Patch, gear: Gear[]) => {
    const shelf = shelfOf(gear)
    const run = levelsOfPatch(patch, shelf).runs.find(({ id }) => id === runId)
    return run ? explanationsOf(measured, run, patch, shelf) : []
  },
  measureAnswers: (
    proofs: Pick<ProofRecord, 'measurement' | 'recording'>[],
    patch: Patch,
    gear: Gear[],
  ): MeasureAnswer[] =>
    proofs.map(({ measurement, recording }) =>
      measureAnswer(measurement, recording ? { patch, shelf: shelfOf(gear), recording } : undefined),
    ),
  readGear: (text: string, name: string, gear: Gear[]) =>
    answered(async () =>
      name.toLowerCase().endsWith('.csv')
        ? readGearCsv(Papa.parse<string[]>(text, { skipEmptyLines: false }).data, shelfOf(gear))
        : readGearJson(text, shelfOf(gear)),
    ),
  kits: (patch: Patch, gear: Gear[], progress: (share: number, found?: KitOption) => void) =>
    reporting(progress, (report) =>
      known(kitOptions(patch, shelfOf(gear), { progress: report }), 'a comparison that nobody cancels'),
    ),
  schools: (patch: Patch, gear: Gear[]) =>
    known(schoolsOf(patch, shelfOf(gear)), 'schools that nobody cancels'),
  plan: (question: Question, gear: Gear[]) => planScene(question, shelfOf(gear)),
  odds: (patch: Patch, gear: Gear[], draws: number, seed: number) =>
    oddsOf(patch, shelfOf(gear), draws, seed),
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
        if (now - toldMs < toldEveryMs && share < 1) return
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
  /** The spectrum of a stretch of one channel: its lines, so many of them. */
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
      // what begins before the clip does is silence there
      const samples = new Float32Array(Math.round((toS - fromS) * rateHz))
      const offset = Math.min(samples.length, offsetIn(fromS, rateHz))
      samples.set(stretch.subarray(0, samples.length - offset), offset)
      return transfer({ samples, rateHz, heard: heardIn(samples, rateHz) }, [samples.buffer])
    }),
  /** What a stand-in records of a scene, as a WAV. */
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
  /** What the meters of a stand-in show. */
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
  /** What a clip shows that was recorded for a step of the line-up. */
  clipReading: (file: Blob, name: string, channel: number, step: Pick<LineUpStep, 'expect'>) =>
    answered(() => clipReadingOf(fileSource(file), name, channel, step)),
  /** What a clap says of a room, and ten seconds without speech. */
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
export type ComputeApi = typeof api

expose(api)
