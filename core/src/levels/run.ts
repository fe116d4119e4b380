import type { Domain, Node, Origin } from '../chain'
import type { CircuitFinding } from '../findings'
import { type CeilingShape, lastOf, type Source } from '../model'
import { amplitudeDb, amplitudeFromDb } from '../units'
import type { TrackAim } from './window'

/** A limit at a point, in its own unit and as the level at the source that would meet it. */
export interface Ceiling {
  at: 'input' | 'output'
  levelDb: number
  shape: CeilingShape
  /** Room between the largest peak of all that sounds there and the ceiling; negative when it is passed. */
  headroomDb: number
  /** The ceiling divided by the gain from the source: a sine of this level at the source would meet it alone. */
  atSourceDb: number
  /** Whether it is behind automatic gain, so that the first word after a pause reaches it first. */
  onset: boolean
}

export interface Moments {
  quietest: number
  typical: number
  loudest: number
}

/** Everything about one place of a run. Levels are in the unit of the domain unless they say `atSource`. */
export interface Point {
  node: string
  part: string
  partName: string
  name: string
  kind: Node['kind']
  domain: Domain
  controls: string[]
  /** Of this source alone. */
  rmsDb: Moments
  peakDb: Moments
  /** The largest peak of all that sounds here: every source, and the place. */
  wholePeakDb: number
  /** The largest peak of the place alone, at its loudest. */
  placePeakDb: number
  gainFromSourceDb: number
  /** Accumulated noise of the boxes, and with the noise of the place, while the source sounds, dB(A). */
  noiseDb: number
  noiseWithPlaceDb: number
  /** The same referred to the source. */
  noiseAtSourceDb: number
  /** Noise added by this point, referred to the source; -Infinity for none. */
  ownNoiseAtSourceDb: number
  /** Noise in a pause as raised by automatic gain, referred to the typical voice. */
  pauseNoiseAtSourceDb: number
  /** Level at which the other channels hold linked automatic gain in a pause; undefined where nothing is linked. */
  heldDb?: number
  /** Automatic gain acting here, dB: during speech, and as a long pause and the loudest moment would have it. */
  automatic?: { spokenDb: number; pauseDb: number; loudestDb: number }
  /** Where several paths of the source meet: their sum relative to the loudest, dB. */
  joinedDb?: number
  ceilings: Ceiling[]
}

/** Part of the noise at the end of a run. */
export interface NoiseShare {
  node: string
  partName: string
  name: string
  atSourceDb: number
  /** Share of the power of all the boxes, 0 to 1. */
  share: number
}

/** One source on its way to one recording or pair of ears. */
export interface Run {
  id: string
  source: Source
  unit: Origin['unit']
  /** The first box, where the source enters. */
  entry: { part: string; name: string }
  end: {
    box: string
    boxName: string
    kind: 'recording' | 'listen'
    track: string
    name: string
    gearKind: string
    aim: TrackAim
  }
  points: Point[]
  /** Sound pressure or level of the source where it enters. */
  atSource: Moments & { peak: number; placeNoise: number; echo: number; wind: number }
  /** The largest peak of the recording, of everything in it. */
  peakDb: number
  typicalDb: number
  /** Noise of the boxes, and with that of the place, during a pause. */
  noiseDb: number
  noiseWithPlaceDb: number
  /** Typical level over the noise of the boxes, and over that of boxes and place together, as heard in its pauses. */
  overBoxesDb: number
  speechToNoiseDb: number
  /** Rise of the noise in a pause under automatic gain, dB. */
  pauseRiseDb: number
  shares: NoiseShare[]
  /** Level that arrives through the box where the run begins, in the unit of the end, and its polarity. */
  byEntry: { db: number; sign: 1 | -1 }
  /** Ways by which the source reaches the end, where there are several: each by its level and how much later it comes. */
  ways: { db: number; laterMs: number; sign: 1 | -1 }[]
  /** Why nothing arrives, where the wiring or the radio lets nothing through. */
  stop?: { finding: CircuitFinding; part: string; partName: string }
  /** The source only spills into this recording; another, by its name, is meant for it and holds it better. */
  spill?: { heldBy: string }
  /** The source is held far below another, and by no recording better. */
  behind?: Behind
  /** The source that plays on in the pauses of this recording, louder than its noise. */
  playsOn?: string
  /** The ceiling met first by the loudest moment; undefined when there is none at all. */
  tightest: { point: number; ceiling: Ceiling } | undefined
}

/** How far below another source a recording holds one that no recording holds better. */
export interface Behind {
  /** The louder source, by name. */
  louder: string
  belowDb: number
  /** Each has a microphone, and a mix brings them together; else they share one. */
  isMixed: boolean
}

/** Two ceilings whose headroom differs by less are met at the same moment, dB. */
const atOnceDb = 0.001
/** The one of two ceilings that leaves less headroom; of two met at once the first, which cuts what would reach the other. */
export const tighter = (one: Ceiling | undefined, other: Ceiling | undefined): Ceiling | undefined =>
  !one || (other && other.headroomDb < one.headroomDb - atOnceDb) ? other : one

/**
 * The largest peak as the recording has it: of all that sounds there, what this run brings by its tightest ceiling is
 * pressed down to that, and the rest adds up as before.
 */
export function recordedPeakDb({
  peakDb,
  points,
  tightest,
}: Pick<Run, 'peakDb' | 'points' | 'tightest'>): number {
  if (!tightest || tightest.ceiling.onset || tightest.ceiling.headroomDb >= 0) return peakDb
  const { atSourceDb, headroomDb } = tightest.ceiling
  const ceilingDb = atSourceDb + lastOf(points).gainFromSourceDb
  const lost = amplitudeFromDb(ceilingDb - headroomDb) - amplitudeFromDb(ceilingDb)
  return amplitudeDb(Math.max(amplitudeFromDb(ceilingDb), amplitudeFromDb(peakDb) - lost))
}
