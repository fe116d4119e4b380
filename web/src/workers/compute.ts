import { proxy } from 'comlink'
import { toRaw } from 'vue'
import type { Way, WaySearch } from '@iron-hush/core/circuit'
import type { Balance, Cure, Odds, SaferPlan, SchoolSettings, TargetSettings } from '@iron-hush/core/balance'
import {
  type ChannelMeasurement,
  type ClipReading,
  type Gear,
  type Link,
  type MeasureAnswer,
  type Measurement,
  type Patch,
  type StandIn,
} from '@iron-hush/core/model'
import type { Alignment, Band, Drawn, ClipSoFar } from '@iron-hush/core/measure'
import type { KitOption, Planned, Question } from '@iron-hush/core/plan'
import type { GearReading } from '@iron-hush/core/report'
import type { DeviceClip, MeterShows, RecordRequest } from '@iron-hush/core/devices'
import type { LineUpStep, Reverberation, RoomNoise } from '@iron-hush/core/lineup'
import type { TestSignal } from '@iron-hush/core/signals'
import type { End, EndOffer, Explanation } from '@iron-hush/core/advice'
import type { EngineApi, MeasuredClip } from './engine.worker'
import type { Listening, Rendered } from './listening'
import { type Job, Pool } from './pool'
import type { ClipChannel, SoundApi } from './sound.worker'
import { unwrap } from './told'

export type { Job } from './pool'

const engine = new Pool<EngineApi>(
  () => new Worker(new URL('./engine.worker.ts', import.meta.url), { type: 'module' }),
)
const sound = new Pool<SoundApi>(
  () => new Worker(new URL('./sound.worker.ts', import.meta.url), { type: 'module' }),
)

/** Begins a worker before a clip is read: it takes longer to begin than to read the first of it. */
export const warmUp = (): void => sound.warmUp()

/** A listener for what a worker reports while it works. Nothing goes back to the worker, not even what the listener returns. */
const oneWay = <Report extends unknown[]>(listener: (...report: Report) => void) =>
  proxy((...report: Report): void => {
    listener(...report)
  })

export const startBalance = (patch: Patch, gear: readonly Gear[]): Job<Balance> =>
  engine.job(async (api) => unwrap(await api.balance(toRaw(patch), gear.map(toRaw))))

/** Cures for a chain, reported as they are found. */
export const startCures = (
  patch: Patch,
  gear: readonly Gear[],
  progress: (share: number, cure?: Cure) => void,
): Job<Cure[]> => engine.job((api) => api.cures(toRaw(patch), gear.map(toRaw), oneWay(progress)))

/** Settings that keep the chance of clipping under a limit; undefined when none do. */
export const startSafer = (
  patch: Patch,
  gear: readonly Gear[],
  limit: number,
  draws: number,
  seed: number,
): Job<SaferPlan | undefined> =>
  engine.job((api) => api.safer(toRaw(patch), gear.map(toRaw), limit, draws, seed))

export const startMeasure = (
  file: Blob,
  name: string,
  progress: (share: number, soFar: ClipSoFar) => void,
): Job<Measurement> => sound.job(async (api) => unwrap(await api.measure(file, name, oneWay(progress))))

/** A stretch of a clip, for drawing it. */
export const startDrawn = (
  file: Blob,
  name: string,
  fromS: number,
  toS: number,
  slices: number,
): Job<Drawn> => sound.job(async (api) => unwrap(await api.drawn(file, name, fromS, toS, slices)))
/** A stretch of a clip, for listening to it. */
export const startHeard = (
  file: Blob,
  name: string,
  fromS: number,
  toS: number,
): Job<{ rateHz: number; channels: Float32Array[] }> =>
  sound.job(async (api) => unwrap(await api.heard(file, name, fromS, toS)))

/** How two channels of clips lie beside each other. */
export const startAligned = (one: ClipChannel, other: ClipChannel): Job<Alignment> =>
  sound.job(async (api) => unwrap(await api.aligned(one, other)))
/** A stretch of one channel, for comparing it by ear. */
export const startChannelHeard = (of: ClipChannel, fromS: number, toS: number): Job<Rendered> =>
  sound.job(async (api) => unwrap(await api.channelHeard(of, fromS, toS)))

/** The spectrum of a stretch of one channel. */
export const startLines = (of: ClipChannel, fromS: number, toS: number, points: number): Job<Band[]> =>
  sound.job(async (api) => unwrap(await api.lines(of, fromS, toS, points)))

/** A scene with the stand-ins that its boxes have. */
export interface SimulatedScene {
  patch: Patch
  gear: readonly Gear[]
  devices: readonly StandIn[]
}
const simulated = ({ patch, gear, devices }: SimulatedScene) =>
  [toRaw(patch), gear.map(toRaw), devices] as const

/** A stand-in's recording of a scene, as WAV. */
export const startStandInClip = (
  scene: SimulatedScene,
  request: RecordRequest & { seed: number },
): Job<DeviceClip> => sound.job(async (api) => unwrap(await api.recordStandIn(...simulated(scene), request)))

/** Meter readings of a stand-in. */
export const startStandInMeters = (scene: SimulatedScene, request: RecordRequest): Job<MeterShows[]> =>
  sound.job(async (api) => unwrap(await api.standInMeters(...simulated(scene), request)))

/** The level of the tone at which a mark of a stand-in lights. */
export const startStandInMark = (scene: SimulatedScene, request: RecordRequest, mark: string): Job<number> =>
  sound.job(async (api) => unwrap(await api.standInMark(...simulated(scene), request, mark)))

/** Readings of a clip recorded for a step of the line-up. */
export const startClipReading = (
  file: Blob,
  name: string,
  channel: number,
  step: Pick<LineUpStep, 'expect'>,
): Job<ClipReading> => sound.job(async (api) => unwrap(await api.clipReading(file, name, channel, step)))

/** Room acoustics from a clap and ten seconds without speech; undefined if there is too little sound. */
export const startReverberation = (samples: Float32Array, rateHz: number): Job<Reverberation | undefined> =>
  sound.job((api) => api.reverberation(samples, rateHz))
export const startRoomNoise = (samples: Float32Array, rateHz: number): Job<RoomNoise | undefined> =>
  sound.job((api) => api.roomNoise(samples, rateHz))

/** The samples of a test signal, and the same as a WAV file. */
export const startSignal = (signal: TestSignal, rateHz: number): Job<Float32Array> =>
  sound.job((api) => api.signal(signal, rateHz))
export const startSignalFile = (signal: TestSignal): Job<Uint8Array> =>
  sound.job((api) => api.signalFile(signal))

/** Makes the clips of the stand-in card, reported one by one. */
export const startCard = (made: (name: string, bytes: Uint8Array) => void): Job<void> =>
  sound.job((api) => api.card(oneWay(made)))

/** Ways from one end of a link to the other, reported as they are found. */
export const startFindWays = (
  patch: Patch,
  link: Link,
  gear: readonly Gear[],
  search: Pick<WaySearch, 'otherPorts'>,
  found: (way: Way) => void,
): Job<Way[]> =>
  engine.job((api) => api.findWays(toRaw(patch), toRaw(link), gear.map(toRaw), search, oneWay(found)))

/** Gear that could be added at an end of the chain, reported as it is found. */
export const startOffersAtEnd = (
  patch: Patch,
  end: End,
  gear: readonly Gear[],
  found: (offer: EndOffer) => void,
): Job<void> => engine.job((api) => api.offersAtEnd(toRaw(patch), end, gear.map(toRaw), oneWay(found)))

/** Which assumptions of the plan explain best why a clip came out otherwise. */
export const startExplanations = (
  measured: ChannelMeasurement,
  run: string,
  patch: Patch,
  gear: readonly Gear[],
): Job<Explanation[]> =>
  engine.job((api) => api.explanations(toRaw(measured), run, toRaw(patch), gear.map(toRaw)))

/** The published form of what clips measured, each beside the plan of the recording that it belongs to. */
export const startMeasureAnswers = (
  clips: readonly MeasuredClip[],
  patch: Patch,
  gear: readonly Gear[],
): Job<MeasureAnswer[]> =>
  engine.job((api) => api.measureAnswers(clips.map(toRaw), toRaw(patch), gear.map(toRaw)))

/** Reads a gear file, a table by its name or else JSON, line by line. */
export const startReadGear = (text: string, name: string, gear: readonly Gear[]): Job<GearReading> =>
  engine.job(async (api) => unwrap(await api.readGear(text, name, gear.map(toRaw))))

/** Renders one recording under several settings, to be heard side by side. */
export const startListen = (
  patches: readonly Patch[],
  listening: Listening,
  gear: readonly Gear[],
  progress: (share: number) => void,
): Job<Rendered[]> =>
  sound.job(async (api) =>
    unwrap(await api.listen(patches.map(toRaw), listening, gear.map(toRaw), oneWay(progress))),
  )

/** The ways to use a kit, reported as they are found. */
export const startKits = (
  patch: Patch,
  gear: readonly Gear[],
  progress: (share: number, found?: KitOption) => void,
): Job<KitOption[]> => engine.job((api) => api.kits(toRaw(patch), gear.map(toRaw), oneWay(progress)))

/** The current chain as two schools of gain would set it. */
export const startSchools = (patch: Patch, gear: readonly Gear[]): Job<SchoolSettings[]> =>
  engine.job((api) => api.schools(toRaw(patch), gear.map(toRaw)))

/** The current chain balanced for each peak target. */
export const startTargets = (patch: Patch, gear: readonly Gear[]): Job<TargetSettings[]> =>
  engine.job((api) => api.targets(toRaw(patch), gear.map(toRaw)))

/** The chains that answer three questions, the best first. */
export const startPlan = (question: Question, gear: readonly Gear[]): Job<Planned[]> =>
  engine.job((api) => api.plan(toRaw(question), gear.map(toRaw)))

/** How sure the plan is: draws by the tolerances of all figures and the spread of the voices. */
export const startOdds = (patch: Patch, gear: readonly Gear[], draws: number, seed: number): Job<Odds> =>
  engine.job((api) => api.odds(toRaw(patch), gear.map(toRaw), draws, seed))
