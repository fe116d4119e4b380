import { known, type LineUpReading, type Position, positionName, type Source } from '../model'
import type { TestSignal } from '../signals'
import { type Bench, sentDbuOf, placedBox, type ToneWay } from './bench'

/** A control to be set, and where to, in the marks of its box. */
export interface Setting {
  box: string
  boxName: string
  control: string
  controlName: string
  position: Position
  positionName: string
}

/** Expected reading of a step. */
export type Expectation =
  | { kind: 'seen' }
  | { kind: 'level'; track: string; levelDbfs: number; toleranceDb: number; relative: boolean }
  | { kind: 'shape'; track: string; ceilingDbfs: number }
  | { kind: 'floor'; track: string; noiseDbfsA: number }
  | { kind: 'mark'; mark: string; markName: string; levelDbfs: number }
  | { kind: 'automatic'; track: string; targetDbfs: number }
  | {
      kind: 'peak'
      track: string
      peakDbfs: number
      lowestDbfs: number
      highestDbfs: number
      /** The plan lies outside the window and no control may be turned: it comes as it is planned. */
      isFixed: boolean
    }
  | { kind: 'channels'; tracks: string[] }
  | { kind: 'trial'; track: string }

export type StepKind =
  | 'settle'
  | 'scratch'
  | 'send'
  | 'tone'
  | 'overload'
  | 'floor'
  | 'mark'
  | 'bursts'
  | 'voice'
  | 'trial'
  | 'listen'

/** One thing to do on the way from the source to the recordings. */
export interface LineUpStep {
  id: string
  /** Of the chain that it was made for. */
  basis: string
  kind: StepKind
  box: string
  boxName: string
  set: Setting[]
  expect: Expectation
  /** The signal played, and from which box; without a box, from this page into the input. */
  play?: TestSignal & {
    from?: string
    /** Its level at the output it is sent from, dBu, if known. */
    outDbu?: number
  }
  /** The run that it is read on. */
  run?: string
  /** Who or what is heard. */
  source?: Pick<Source, 'name' | 'kind'>
  /** Additional reason for the step. */
  why?: 'planned position' | 'law uncertain' | 'overload may hide' | 'front and back not told apart'
  /** What was done of the step; undefined: nothing yet, or with another chain. */
  reading: LineUpReading | undefined
  /** It was done with another chain. */
  stale: boolean
}

/** A step before it is known whether it was done. */
export type Draft = Omit<LineUpStep, 'reading' | 'stale'>

/** A control of a box of the scene at a position, in the box's own marks. */
export const settingOf = (bench: Bench, box: string, control: string, position: Position): Setting => {
  const { gear, name } = placedBox(bench, box)
  const found = known(
    gear.controls.find(({ id }) => id === control),
    `control ${control}`,
  )
  return {
    box,
    boxName: name,
    control,
    controlName: found.name,
    position,
    positionName: positionName(found, position),
  }
}

/** A signal sent along a way: from which box, and its level at that output. */
export function playedFrom(way: ToneWay, signal: TestSignal): NonNullable<LineUpStep['play']> {
  if (way.sender === undefined) return signal
  const outDbu = sentDbuOf(way)
  return {
    ...signal,
    from: way.run.points[way.sender]!.part,
    ...(outDbu !== undefined && { outDbu: signal.levelDbfs + outDbu }),
  }
}
