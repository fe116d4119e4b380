import { asSet, type End, type Graph, graphOf, type Origin, type PositionOf } from '../chain'
import { valueAt, withValue } from '../lineup'
import { wavBytes } from '../media'
import {
  type Gear,
  known,
  type Patch,
  Refusal,
  type Shelf,
  shelfFor,
  type StandIn,
  trackKey,
  valueOf,
} from '../model'
import { render, silentVoice, type Voice, voiceOf } from '../render'
import { testSignal, type TestSignal } from '../signals'
import { amplitudeDb } from '../units'
import type { Device, DeviceClip, MeterShows, RecordedSound, RecordRequest } from './device'

const rateHz = 48_000
const silenceS = 5
const scratchS = 4
/** Full-scale level from a small computer's headphone socket through a lead with a pad, dBu. */
const pageOutputDbu = -24
/** Full-scale level of its loudspeaker close to a built-in microphone, dB SPL. */
const pageLoudDbSpl = 96
const bits = 24
const meterStepDb = 0.5

/** The stand-ins that a scene's boxes have, by box. A copy of one's own has the stand-in of what it is a copy of. */
export function standInsOf(
  patch: Patch,
  commonShelf: Shelf,
  devices: readonly StandIn[],
): Map<string, StandIn> {
  const shelf = shelfFor(patch, commonShelf)
  return new Map(
    patch.boxes.flatMap((box): [string, StandIn][] => {
      const gear = shelf.get(box.gear)
      const device = devices.find(({ gear: of }) => of === gear?.id || of === gear?.copyOf)
      return device ? [[box.id, device]] : []
    }),
  )
}

/** A thing with the true figures of its stand-in. */
export function trueGear(gear: Gear, { truths, crossed }: StandIn): Gear {
  const withTruths = truths.reduce((thing, { places, value }) => {
    const place = places[0]!
    // a truth about a place that is not there would never show
    if (valueAt(thing, place) === null)
      throw new Refusal(`The stand-in of ${gear.name} states a figure that ${gear.name} does not have.`)
    return withValue(thing, places, value)
  }, gear)
  return crossed.reduce((thing, [one, other]): Gear => {
    const to = (id: string) =>
      known(
        thing.strips.find((strip) => strip.id === id),
        `strip ${id}`,
      ).to
    const [first, second] = [to(one), to(other)]
    return {
      ...thing,
      strips: thing.strips.map((strip) =>
        strip.id === one ? { ...strip, to: second } : strip.id === other ? { ...strip, to: first } : strip,
      ),
    }
  }, withTruths)
}

/** The scene with the true figures of every box that has a stand-in device. */
export function truePatch(patch: Patch, commonShelf: Shelf, devices: readonly StandIn[]): Patch {
  const shelf = shelfFor(patch, commonShelf)
  const truths = new Map<string, Gear>()
  for (const [box, device] of standInsOf(patch, commonShelf, devices)) {
    const gear = known(
      shelf.get(
        known(
          patch.boxes.find(({ id }) => id === box),
          box,
        ).gear,
      ),
      box,
    )
    // learnt figures are beliefs; the true ones are those that the thing ships with, and the hidden ones
    const shipped = (gear.copyOf !== undefined && shelf.get(gear.copyOf)) || gear
    truths.set(gear.id, { ...trueGear(shipped, device), id: gear.id, name: gear.name })
  }
  return {
    ...patch,
    gear: [...patch.gear.filter(({ id }) => !truths.has(id)), ...truths.values()],
  }
}

/**
 * A box of a scene as a stand-in: it records through the renderer, with the true figures of everything in the scene that
 * is a stand-in.
 */
export function standInDevice(
  patch: Patch,
  commonShelf: Shelf,
  devices: readonly StandIn[],
  box: string,
  seed = 1,
): Device {
  const device = known(standInsOf(patch, commonShelf, devices).get(box), `a stand-in for ${box}`)
  let count = 0
  const real = truePatch(patch, commonShelf, devices)
  const recorded = (request: RecordRequest) => {
    count++
    return recordedTracks(graphOf(real, commonShelf), request, seed + count)
  }
  return {
    id: device.id,
    name: device.name,
    isStandIn: true,
    record: (request) => {
      const tracks = recorded(request)
      if (tracks.length === 0) throw new Refusal(`${device.name} records nothing in this scene.`)
      return Promise.resolve<DeviceClip>({
        name: `stand-in ${device.id} ${String(count).padStart(2, '0')}.wav`,
        bytes: wavBytes(
          tracks.map(({ samples }) => samples),
          rateHz,
          bits,
        ),
        tracks: tracks.map(({ end }) => trackOf(end)),
      })
    },
    readMeters: (request) => Promise.resolve(recorded(request).map(shownOnMeter)),
    marks: (of) => {
      const gear = shelfFor(real, commonShelf).get(real.boxes.find(({ id }) => id === of)?.gear ?? '')
      return (gear?.meter?.marks ?? []).map(({ id, name }) => ({ id, name }))
    },
  }
}

const trackOf = ({ box, stage }: End): string =>
  trackKey({ box, track: stage.kind === 'recording' ? stage.track : stage.name })

/** Meter reading of the last second: a level to half a decibel, or the highest mark reached. */
function shownOnMeter({ end, samples }: { end: End; samples: Float32Array }): MeterShows {
  const last = samples.subarray(Math.max(0, samples.length - 2 * rateHz), samples.length - rateHz / 2)
  const peakDbfs = amplitudeDb(last.reduce((most, sample) => Math.max(most, Math.abs(sample)), 1e-9))
  const marks = end.gear.meter?.marks
  const track = trackOf(end)
  if (!marks) return { track, levelDbfs: Math.round(peakDbfs / meterStepDb) * meterStepDb }
  const reached = marks.findLast(({ atDbfs }) => valueOf(atDbfs, 0) <= peakDbfs)
  return { track, mark: reached?.id ?? '' }
}

/** Samples of every track of a box. */
function recordedTracks(
  graph: Graph,
  { box, settings, sound }: RecordRequest,
  seed: number,
): { end: End; samples: Float32Array }[] {
  const at: PositionOf = (key) => settings[key] ?? asSet(graph)(key)
  const heard = heardIn(graph, box, sound)
  const frames = Math.round(heard.lengthS * rateHz)
  const ends = graph.ends.filter((end) => end.box === box && end.stage.kind === 'recording')
  const samples = ends.map(() => new Float32Array(frames))
  const running = render(playedFrom({ ...graph, origins: heard.origins }, box, sound), at, {
    rateHz,
    frames,
    seed,
    voice: (source) => heard.voice(source.id) ?? voiceOf(source, rateHz, seed),
    noise: true,
    ambience: sound.kind === 'scene',
  })
  for (const { fromFrame, tracks } of running)
    ends.forEach((end, index) => samples[index]!.set(known(tracks.get(end), 'a track'), fromFrame))
  return ends.map((end, index) => ({ end, samples: samples[index]! }))
}

/** The chain with a box playing its own recordings, or with everything before a box switched off. */
function playedFrom(graph: Graph, box: string, sound: RecordedSound): Graph {
  const cut = new Set(
    sound.kind === 'silence'
      ? entriesOf(graph, box)
      : sound.kind === 'signal' && sound.from !== undefined
        ? recordingsOf(graph, sound.from)
        : [],
  )
  return {
    ...graph,
    nodes: graph.nodes.map((node) => (cut.has(node.index) ? { ...node, feeds: [] } : node)),
  }
}

const recordingsOf = (graph: Graph, box: string): number[] =>
  graph.ends.filter((end) => end.box === box && end.stage.kind === 'recording').map(({ node }) => node)

interface Heard {
  origins: Origin[]
  lengthS: number
  /** The sound of a source; undefined: the one that its kind makes. */
  voice: (source: string) => Voice | undefined
}

function heardIn(graph: Graph, box: string, sound: RecordedSound): Heard {
  switch (sound.kind) {
    case 'scene':
      return { origins: graph.origins, lengthS: sound.lengthS, voice: () => undefined }
    case 'silence':
      return { origins: graph.origins, lengthS: silenceS, voice: () => silentVoice }
    case 'microphone':
      return {
        origins: graph.origins.filter(({ node }) => graph.nodes[node]!.part === sound.microphone),
        lengthS: scratchS,
        voice: () => undefined,
      }
    case 'signal':
      return signalIn(graph, box, sound.signal, sound.from)
  }
}

/** A test signal, entering at every recording of the box that sends it, or at the sockets of the box that records. */
function signalIn(graph: Graph, box: string, signal: TestSignal, from: string | undefined): Heard {
  const samples = testSignal(signal, rateHz)
  const first = known(graph.origins[0], 'a source')
  const nodes = from === undefined ? entriesOf(graph, box) : recordingsOf(graph, from)
  const voice: Voice = {
    fill: (block, fromFrame) => {
      block.fill(0)
      block.set(samples.subarray(fromFrame, fromFrame + block.length))
    },
  }
  const source = { ...first.source, id: 'test-signal' }
  return {
    lengthS: samples.length / rateHz,
    voice: (id) => (id === source.id ? voice : silentVoice),
    origins: [
      // other sources stay silent but plugged in
      ...graph.origins,
      ...nodes.map((node) => ({
        ...first,
        node,
        source,
        typicalDb: from === undefined ? levelInto(graph, node) : 0,
        delayS: 0,
        echoDb: -Infinity,
      })),
    ],
  }
}

/** How loud full scale of this page is where it enters: at a socket, or before a built-in microphone. */
const levelInto = (graph: Graph, node: number): number =>
  graph.nodes[node]!.stage?.kind === 'transducer' ? pageLoudDbSpl : pageOutputDbu

/** First stages of a box: behind its sockets, or at its own capsules where nothing is plugged in. */
function entriesOf({ nodes }: Graph, box: string): number[] {
  const isOwn = (index: number) => nodes[index]!.part === box && nodes[index]!.stage !== undefined
  const first = nodes.filter(({ index, feeds }) => isOwn(index) && !feeds.some(isOwn))
  const plugged = first.filter(({ feeds }) => feeds.length > 0)
  return (plugged.length ? plugged : first).map(({ index }) => index)
}
