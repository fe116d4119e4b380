import type { CeilingShape, PeakTarget, Source } from '../model'
import type { CircuitFinding } from './circuit'
import type { FindingOf } from './finding'

/** What is loudest at a run's tightest point. */
export type Loudest = 'first word after a pause' | 'place' | 'all together' | 'source'

/** Main cause of the boxes' hiss, and what would help. */
export interface Hiss {
  biggest?: { partName: string; name: string; share: number }
  remedy:
    | { kind: 'microphone'; name: string }
    | { kind: 'gain before' | 'nothing before'; partName: string; name: string }
}

/** Findings about levels, by code. `track` and `point` are names. */
export interface LevelFigures {
  level: {
    source: string
    track: string
    /** The wiring finding behind it; left out: everything cancels there. */
    stop?: CircuitFinding
    stopsAt: { partName: string; name: string }
  }
  unrecorded: { source: string; why: 'leads nowhere' | 'no box is fed' | 'no microphone' }
  /** A box at a place, or fed by a source, that no way leads on from. */
  'leads nowhere': { place?: string; source?: string }
  /** Every recording holds the source far below another, for its microphone is one that both share, or in a mix. */
  softer: { source: string; track: string; belowDb: number; louder: string; by: string; isMixed: boolean }
  ceiling: {
    point: string
    track: string
    headroomDb: number
    marginDb: number
    loudest: Loudest
    shape: CeilingShape
    ceilingDb: number
    unit: string
    /** Whether a control before it can reduce the level; otherwise the microphone must be moved. */
    canTurnDown: boolean
    entry: string
    balanced: boolean
  }
  sum:
    | { source: string; track: string; lostDb: number }
    | { source: string; track: string; laterMs: number; apartDb: number; dipDb: number }
  ears: { box: string; levelDbSpl: number; limitDbSpl: number; tooLoud: boolean }
  'under noise': {
    source: string
    kind: Source['kind']
    track: string
    speechToNoiseDb: number
    wantedDb: number
    byPlace: boolean
    overBoxesDb: number
    mostlyWind: boolean
    hiss: Hiss
  }
  hiss: { source: string; track: string; overBoxesDb: number; hiss: Hiss }
  echo: { source: string; track: string; overVoiceDb: number }
  place: {
    kind: Source['kind']
    track: string
    speechToNoiseDb: number
    overBoxesDb: number
    mostlyWind: boolean
  }
  window: {
    track: string
    peakDbfs: number
    outsideDb: number
    lowestDbfs: number
    highestDbfs: number
    peakTarget: PeakTarget
    balanced: boolean
  }
  pauses: { track: string; riseDb: number; held: boolean; hotterHelps: boolean }
}
export type LevelFinding = FindingOf<LevelFigures>
export type LevelCode = LevelFinding['code']
