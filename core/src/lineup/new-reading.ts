import { controlKey, type LineUpReading, type Position, type ReadingResult } from '../model'
import { allTracks, type Bench } from './bench'
import type { LineUpStep, Setting } from './step'

/** When a reading was taken, and an id that nobody has. */
export type ReadingStamp = Pick<LineUpReading, 'id' | 'at'>

/** Positions of all controls during a step: as in the scene, except those that the step sets. */
export const settingsFor = (bench: Bench, set: readonly Setting[]): Record<string, Position> => ({
  ...Object.fromEntries(bench.graph.settings),
  ...Object.fromEntries(set.map(({ box, control, position }) => [controlKey(box, control), position])),
})

/** A step's reading with the positions of all controls, as stored in the scene. */
export const newReading = (
  bench: Bench,
  step: Pick<LineUpStep, 'id' | 'basis' | 'set' | 'play'>,
  result: ReadingResult,
  stamp: ReadingStamp,
  playedDbfs = step.play?.levelDbfs ?? null,
): LineUpReading => ({
  ...stamp,
  step: step.id,
  basis: step.basis,
  result,
  gear: Object.fromEntries(bench.patch.boxes.map(({ id, gear }) => [id, gear])),
  settings: settingsFor(bench, step.set),
  playedDbfs,
})

/** The channel of a clip of a box that a step is read on: its place among the tracks of the box. */
export function channelOf(bench: Bench, { box, expect }: Pick<LineUpStep, 'box' | 'expect'>): number {
  const own = allTracks(bench).filter((track) => track.box === box)
  const wanted = trackOf({ expect })
  return Math.max(
    0,
    own.findIndex(({ id }) => id === wanted),
  )
}

/** The track that a step is read on; empty if it is none. */
export const trackOf = ({ expect }: Pick<LineUpStep, 'expect'>): string =>
  'track' in expect ? expect.track : ''
