import {
  type PositionOf,
  chainOf,
  comingBack,
  type End,
  type Graph,
  graphOf,
  hasPauses,
  neverPauses,
  plannedPauseS,
} from '../chain'
import { levelsOfGraph, type Run, silenceDb } from '../levels'
import { AFilter } from '../measure'
import type { Patch, Shelf, Source } from '../model'
import {
  blockFrames,
  loudestS,
  type Met,
  render,
  type Rendering,
  silentVoice,
  voiceOf,
  type Voice,
} from '../render'
import { amplitudeDb, powerDb } from '../units'
import { rateHz } from './listen'

/*
 * What a patch is predicted to do beside what it does on samples. Voices are tones that are picked out of everything
 * else by their frequency, so that their level is found under any noise and any automatic gain.
 */

/** A prediction beside the same thing measured on rendered samples. */
export interface Heard {
  /** `most`: what a peak reaches at most, where automatic gain comes down under several sounds; it need not. */
  kind: 'level' | 'noise in a pause' | 'peak' | 'most' | 'ceiling'
  /** A limiter is at work on the way: how far it is behind a wave hangs on the wave. */
  limited: boolean
  run: string
  predicted: number
  rendered: number
}

type Unmarked = Omit<Heard, 'limited'>

const spokenS = 2
const toneHz = 1000
/** What goes on while the tone pauses has one of its own. */
const otherHz = 1250

/** By how much a remark swells towards its end, and for how long, s. */
const swell = 0.006
const swellS = 0.4

/**
 * A tone at the typical level for a while, then nothing. It swells by a trace at its end, so that the hold of automatic
 * gain begins there: under a tone that is quite steady it may be half over by chance.
 */
const remark = (hz: number, seconds: number): Voice => ({
  fill: (block, fromFrame) => {
    for (let index = 0; index < block.length; index++) {
      const frame = fromFrame + index
      block[index] = toneAt(frame, hz, seconds)
    }
  },
})

function toneAt(frame: number, hz: number, untilS: number): number {
  if (frame >= untilS * rateHz) return 0
  const size = 1 + swell * Math.max(0, 1 - (untilS - frame / rateHz) / swellS)
  return size * Math.sin((2 * Math.PI * hz * frame) / rateHz)
}

/** Amplitude of a tone in samples, whose stretch holds whole periods of it. */
function amplitudeOf(samples: Float64Array, hz: number): number {
  let [re, im] = [0, 0]
  for (const [index, sample] of samples.entries()) {
    re += sample * Math.cos((2 * Math.PI * hz * index) / rateHz)
    im += sample * Math.sin((2 * Math.PI * hz * index) / rateHz)
  }
  return (2 * Math.hypot(re, im)) / samples.length
}

/** Samples of every recording between two moments, seconds; A-weighted where that is asked for. */
function stretches(
  graph: Graph,
  at: PositionOf,
  part: Pick<Rendering, 'voice' | 'noise' | 'ambience' | 'spoke'> & { seed?: number },
  spans: readonly { fromS: number; toS: number; weighted: boolean }[],
): { of: (end: End, span: number) => Float64Array; met: Met } {
  const frames = Math.round(Math.max(...spans.map(({ toS }) => toS)) * rateHz)
  const kept = new Map<End, Float64Array[]>()
  const filters = new Map<End, AFilter>()
  const running = render(graph, at, { rateHz, frames, seed: 7, ...part })
  let next = running.next()
  for (; !next.done; next = running.next())
    for (const [end, samples] of next.value.tracks) {
      if (!kept.has(end)) {
        kept.set(
          end,
          spans.map(({ fromS, toS }) => new Float64Array(Math.round((toS - fromS) * rateHz))),
        )
        filters.set(end, new AFilter(rateHz))
      }
      for (const [which, span] of spans.entries())
        keep(kept.get(end)![which]!, samples, next.value.fromFrame, span, filters.get(end)!)
    }
  return { of: (end, span) => kept.get(end)![span]!, met: next.value }
}

/** What an A-weighting needs to settle, frames: twenty times as long as its lowest pole rings. */
const settlingFrames = 0.2 * rateHz

/** Keeps what a block has of a span. Only one span of an end may be weighted, for the filter goes on from its last. */
function keep(
  into: Float64Array,
  samples: Float32Array,
  fromFrame: number,
  { fromS, weighted }: { fromS: number; weighted: boolean },
  filter: AFilter,
): void {
  const offset = fromFrame - Math.round(fromS * rateHz)
  const first = Math.max(0, -offset - (weighted ? settlingFrames : 0))
  const last = Math.min(samples.length, into.length - offset)
  for (let index = first; index < last; index++) {
    const sample = weighted ? filter.next(samples[index]!) : samples[index]!
    if (index + offset >= 0) into[index + offset] = sample
  }
}

const endOf = (graph: Graph, run: Run): End =>
  graph.ends.find(
    (end) => end.box === run.end.box && 'track' in end.stage && end.stage.track === run.end.track,
  )!

/** How far a prediction lies from the samples, dB; of a bound, how far they pass it. */
export const apart = ({ kind, predicted, rendered }: Heard): number =>
  kind === 'most' ? Math.max(0, rendered - predicted) : Math.abs(predicted - rendered)

/** Renderings over which a figure is averaged at last: where noise leads automatic gain, single ones differ by 0.5 dB. */
const mostSeeds = 24

/**
 * Everything that is predicted of the recordings of a patch, each beside its samples, averaged over a few renderings. If
 * a figure lies beyond 0.3 dB it may be by chance, so all are averaged over many.
 */
export function heardBeside(patch: Patch, shelf: Shelf, seeds = 4): Heard[] {
  const few = heardOver(patch, shelf, seeds)
  return few.some((each) => !each.limited && apart(each) > 0.3) ? heardOver(patch, shelf, mostSeeds) : few
}

function heardOver(patch: Patch, shelf: Shelf, seeds: number): Heard[] {
  const graph = graphOf(patch, shelf)
  const at: PositionOf = (key) => graph.settings.get(key)!
  const runs = levelsOfGraph(graph, at).runs.filter(
    ({ end, stop, typicalDb }) => end.kind === 'recording' && !stop && typicalDb > silenceDb,
  )
  const limited = limitedRuns(graph, at, runs)
  return [
    ...patch.brief.sources.flatMap((source) => spokenAndPaused(graph, at, runs, source, seeds)),
    ...peaks(graph, at, runs),
  ].map((each) => ({ ...each, limited: each.run.split(', ').some((run) => limited.has(run)) }))
}

/** Runs into recordings that a limiter at work leads to. */
function limitedRuns(graph: Graph, at: PositionOf, runs: readonly Run[]): Set<string> {
  const { onset, readings } = chainOf(
    graph,
    graph.nodes.map((node) => node.read(at)),
  )
  const working = new Set(
    graph.nodes
      .filter(({ index }) => readings[index]!.follows?.kind === 'limiter' && onset.followDb[index]! < -0.1)
      .map(({ id }) => id),
  )
  return new Set(
    runs.filter(({ points }) => points.some(({ node }) => working.has(node))).map(({ id }) => id),
  )
}

/** Level of a source that speaks, and the noise three seconds after its last word. */
function spokenAndPaused(
  graph: Graph,
  at: PositionOf,
  runs: readonly Run[],
  source: Source,
  seeds: number,
): Unmarked[] {
  // what meets a ceiling, on whichever way, has another level than it would have
  const cut = new Set(
    runs.flatMap((run) => ((run.tightest?.ceiling.headroomDb ?? Infinity) < 0.3 ? [endOf(graph, run)] : [])),
  )
  const mine = runs.filter((run) => run.source.id === source.id && !cut.has(endOf(graph, run)))
  if (mine.length === 0) return []
  const goesOn = !hasPauses(source)
  const voice = (each: Source): Voice =>
    each.id === source.id
      ? remark(toneHz, goesOn ? 99 : spokenS)
      : neverPauses(each)
        ? remark(otherHz, 99)
        : silentVoice
  const pauseS = spokenS + plannedPauseS
  // gain that turns with a channel full of noise goes up and down with that
  const linked = graph.nodes.some((node) => node.linked?.length)
  const heard = Array.from({ length: seeds }, (_, seed) =>
    stretches(graph, at, { voice, noise: true, ambience: true, spoke: source.id, seed: 7 + seed }, [
      { fromS: spokenS - 0.5, toS: spokenS - 0.02, weighted: false },
      { fromS: pauseS - 0.1, toS: pauseS + 0.1, weighted: true },
    ]),
  )
  return mine.flatMap((run): Unmarked[] => {
    const end = endOf(graph, run)
    const level = heard.reduce((sum, each) => sum + amplitudeOf(each.of(end, 0), toneHz) ** 2, 0) / seeds
    const pauses = heard.map((each) => {
      const samples = each.of(end, 1)
      const square = samples.reduce((all, sample) => all + sample * sample, 0) / samples.length
      const tones = [toneHz, otherHz].reduce((all, hz) => all + amplitudeOf(samples, hz) ** 2 / 2, 0)
      return { noise: square - tones, tones }
    })
    const noise = pauses.reduce((sum, each) => sum + each.noise, 0) / seeds
    // a tone that automatic gain still moves is no longer one tone: beside a far louder one noise is not found
    const found = pauses.every((each) => each.tones < 300 * each.noise) && !atItsLeast(graph, at, run)
    return [
      // ways apart in time add up by their likeness over a whole voice, which a tone does not tell
      ...((run.ways.length > 1 && run.ways.some(({ laterMs }) => laterMs > 0)) ||
      underNoise(run) ||
      (linked && runs.some((other) => other.end.track !== run.end.track && underNoise(other)))
        ? []
        : [{ kind: 'level' as const, run: run.id, predicted: run.typicalDb, rendered: powerDb(level) }]),
      ...(found
        ? [
            {
              kind: 'noise in a pause' as const,
              run: run.id,
              predicted: run.noiseWithPlaceDb,
              rendered: powerDb(2 * noise),
            },
          ]
        : []),
    ]
  })
}

/** So far under steady noise automatic gain follows the noise, which is never quite steady. */
const underNoise = ({ typicalDb, noiseWithPlaceDb }: Run): boolean => typicalDb < noiseWithPlaceDb - 8

/** Automatic gain that cannot hold the voice down begins to open later than is reckoned with. */
const atItsLeast = (graph: Graph, at: PositionOf, run: Run): boolean =>
  run.points.some(({ node, automatic }) => {
    const follows = automatic && graph.nodes.find(({ id }) => id === node)!.read(at).follows
    return follows?.kind === 'agc' && automatic!.spokenDb < follows.minimumGainDb + 0.01
  })

/** The largest peak of each recording, when everything that reaches it is loudest at the very same moment there. */
function peaks(graph: Graph, at: PositionOf, runs: readonly Run[]): Unmarked[] {
  const tracks = new Map<End, Run[]>()
  for (const run of runs) {
    const end = endOf(graph, run)
    tracks.set(end, [...(tracks.get(end) ?? []), run])
  }
  return [...tracks].flatMap(([end, all]): Unmarked[] => {
    // where one voice comes by ways of different length its peaks may meet, and need not
    if (all.some(({ ways }) => ways.some(({ laterMs }) => laterMs > 0))) return []
    // a voice that automatic gain cannot hold down passes through gain that has begun to open
    if (all.some((run) => atItsLeast(graph, at, run))) return []
    // gain that turns with another channel hangs on when the sounds of that one arrive there
    const heardHere = new Set(all.map(({ source }) => source.id))
    const linked = graph.nodes.some((node) => node.linked?.length)
    if (linked && runs.some(({ source }) => !heardHere.has(source.id))) return []
    // a low cut shifts waves in time, so that peaks miss each other by a little
    const lowCut = all.some(({ points }) => points.some(({ kind }) => kind === 'low-cut'))
    if (lowCut && (all.length > 1 || rumbles(all[0]!.points.at(-1)!))) return []
    const room = Math.min(...all.map(({ tightest }) => tightest?.ceiling.headroomDb ?? Infinity))
    const arrivals = new Map(all.map(({ source }) => [source.id, arrival(graph, at, end, source)]))
    const before = speakersBefore(graph, at, all)
    const rendered = [...before, undefined].map((speaker) => {
      const { of, met } = stretches(
        graph,
        at,
        {
          voice: (source) =>
            speaker || neverPauses(source)
              ? outOfPause(
                  ahead(source, arrivals.get(source.id) ?? { frames: 0, sign: 1 }),
                  arrivals.get(source.id)?.frames ?? 0,
                  source.id === speaker && hasPauses(source)
                    ? loudestS.from - plannedPauseS
                    : neverPauses(source)
                      ? loudestS.from
                      : 0,
                  toneHz + 250 * all.findIndex((each) => each.source.id === source.id),
                )
              : silentVoice,
          noise: false,
          ambience: true,
          spoke: speaker,
        },
        [{ fromS: loudestS.from - 0.01, toS: loudestS.from + 0.15, weighted: false }],
      )
      const along = new Set(all.flatMap(({ points }) => points.map(({ node }) => node)))
      return {
        peakDb: amplitudeDb(of(end, 0).reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)),
        met: [...met].some(([node, times]) => times > 0 && along.has(node.id)),
      }
    })
    const run = all.map(({ id }) => id).join(', ')
    const severalUnderGain =
      all.length > 1 && all.some(({ points }) => points.some(({ automatic }) => automatic))
    if (Math.abs(room) < 0.3) return []
    if (room < 0)
      return [{ kind: 'ceiling', run, predicted: 1, rendered: Number(rendered.some(({ met }) => met)) }]
    return [
      { kind: 'ceiling', run, predicted: 0, rendered: Number(rendered.some(({ met }) => met)) },
      {
        kind: severalUnderGain ? 'most' : 'peak',
        run,
        predicted: all[0]!.peakDb,
        rendered: Math.max(...rendered.map(({ peakDb }) => peakDb)),
      },
    ]
  })
}

/**
 * Who may have spoken before the pause that the loudest moment comes out of: it decides how far automatic gain has
 * opened. Without automatic gain it makes no difference.
 */
function speakersBefore(graph: Graph, at: PositionOf, runs: readonly Run[]): string[] {
  const sources = new Map(runs.map(({ source }) => [source.id, source]))
  const back = comingBack([...sources.values()]).map(({ id }) => id)
  const speakers = back.length ? back : [...sources.keys()]
  return graph.nodes.some((node) => node.read(at).follows) ? speakers : speakers.slice(0, 1)
}

/**
 * A voice that has its loudest moment out of a pause. Before it there is a steady tone at its typical level, up to the
 * pause or, where it never makes one, through it; or nothing.
 */
const outOfPause = (voice: Voice, aheadFrames: number, untilS: number, hz: number): Voice => ({
  fill: (block, fromFrame) => {
    voice.fill(block, fromFrame)
    const loud = Math.max(0, Math.min(block.length, loudestS.from * rateHz - aheadFrames - fromFrame))
    for (let index = 0; index < loud; index++) {
      const frame = fromFrame + index
      block[index] = toneAt(frame, hz, untilS)
    }
  },
})

/** The place has a part in the peak. */
const rumbles = ({ placePeakDb, wholePeakDb }: Run['points'][number]): boolean =>
  placePeakDb > wholePeakDb - 30

/** How much later and which way up a source reaches a recording. */
function arrival(graph: Graph, at: PositionOf, end: End, source: Source): { frames: number; sign: number } {
  const { of } = stretches(
    graph,
    at,
    {
      voice: (each) =>
        each.id === source.id
          ? { fill: (block, fromFrame) => void block.fill(0).fill(1e-3, 0, fromFrame === 0 ? 1 : 0) }
          : silentVoice,
      noise: false,
      ambience: false,
    },
    [{ fromS: 0, toS: 0.5, weighted: false }],
  )
  const samples = of(end, 0)
  let most = 0
  for (let index = 1; index < samples.length; index++)
    if (Math.abs(samples[index]!) > Math.abs(samples[most]!)) most = index
  return { frames: most, sign: Math.sign(samples[most]!) || 1 }
}

/** A voice so much earlier that it arrives in step, and upright. It is made in whole blocks, as it is in a rendering. */
function ahead(source: Source, { frames, sign }: { frames: number; sign: number }): Voice {
  const voice = voiceOf(source, rateHz, 3)
  let made = new Float32Array(0)
  let madeFrom = 0
  return {
    fill: (block, fromFrame) => {
      const from = fromFrame + frames
      while (madeFrom + made.length < from + block.length) {
        const next = new Float32Array(blockFrames)
        voice.fill(next, madeFrom + made.length)
        const kept = made.subarray(Math.min(made.length, Math.max(0, from - madeFrom)))
        madeFrom += made.length - kept.length
        made = Float32Array.from([...kept, ...next])
      }
      block.set(made.subarray(from - madeFrom, from - madeFrom + block.length))
      if (sign < 0) for (let index = 0; index < block.length; index++) block[index]! *= -1
    },
  }
}
