import { type PositionOf, graphOf, asSet } from '@iron-hush/core/chain'
import { type Heard, heardIn } from '@iron-hush/core/measure'
import { type Patch, Refusal, type Shelf, known } from '@iron-hush/core/model'
import { dropoutsOf } from '@iron-hush/core/radio'
import { clipVoice, render, voiceOf } from '@iron-hush/core/render'

/** A recording of a patch, rendered to be heard. */
export interface Rendered {
  samples: Float32Array
  rateHz: number
  heard: Heard
}

export interface Listening {
  box: string
  track: string
  seconds: number
  seed: number
  /** Somebody's own sound in place of the made-up voice, one channel at the rate of the rendering. */
  clip?: Float32Array
  /** Distance between the radios, m, with a body between; left out, they never drop out. */
  radioM?: number
}

export const renderRateHz = 48_000

/** Renders one recording of a patch. */
export function renderTrack(
  patch: Patch,
  shelf: Shelf,
  { box, track, seconds, seed, clip, radioM }: Listening,
  progress: (share: number) => void,
): Rendered {
  const graph = graphOf(patch, shelf)
  const end = graph.ends.find(
    ({ box: at, stage }) => at === box && stage.kind === 'recording' && stage.track === track,
  )
  if (!end) throw new Refusal('This recording is no longer in the chain. Choose another run to listen to.')
  const at: PositionOf = asSet(graph)
  const frames = seconds * renderRateHz
  const samples = new Float32Array(frames)
  const running = render(graph, at, {
    rateHz: renderRateHz,
    frames,
    seed,
    voice: (source) => (clip ? clipVoice(clip) : voiceOf(source, renderRateHz, seed)),
    noise: true,
    ambience: true,
    dropouts: radioM === undefined ? undefined : dropoutsOf(patch, shelf, radioM),
  })
  for (const { fromFrame, tracks } of running) {
    samples.set(known(tracks.get(end), 'the samples of a track'), fromFrame)
    progress(fromFrame / frames)
  }
  return { samples, rateHz: renderRateHz, heard: heardIn(samples, renderRateHz) }
}
