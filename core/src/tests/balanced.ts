import { balance } from '../balance'
import { applyEdits } from '../edits'
import { type Levels, levelsOfPatch } from '../levels'
import type { Patch, Shelf } from '../model'
import { type Heard, heardBeside } from './on-samples'

/** What Balance promises of a patch beside the samples, before and after. */
export interface Balanced {
  before: Heard[]
  after: Heard[]
  /** No demand was missed by more before than after: what is won is speech-to-noise. */
  asGood: boolean
  /** Speech-to-noise of the worst run, dB, where every run was compared with samples before and after. */
  worstDb?: { before: number; after: number }
}

export function balanced(patch: Patch, shelf: Shelf, seeds: number): Balanced {
  const found = balance(patch, shelf)!
  const set = applyEdits(
    patch,
    found.changes.map(({ part, control, to }) => ({
      kind: 'set control' as const,
      part,
      control,
      position: to,
    })),
    shelf,
  )
  const [before, after] = [heardBeside(patch, shelf, seeds), heardBeside(set, shelf, seeds)]
  const was = ratiosOf(before, levelsOfPatch(patch, shelf))
  const is = ratiosOf(after, levelsOfPatch(set, shelf))
  return {
    before,
    after,
    asGood:
      missed(found.before.overDb) <= missed(found.after.overDb) + 0.1 &&
      missed(found.before.outsideDb) <= missed(found.after.outsideDb) + 0.1,
    worstDb:
      was && is && [...was.keys()].join() === [...is.keys()].join()
        ? { before: Math.min(...was.values()), after: Math.min(...is.values()) }
        : undefined,
  }
}

const missed = (db: readonly number[]): number => Math.max(0, ...db)

/**
 * Speech-to-noise of each run as it was rendered; nothing where a run was not compared, since that one may be the worst.
 */
function ratiosOf(heard: readonly Heard[], { runs }: Levels): Map<string, number> | undefined {
  const of = (kind: Heard['kind']) =>
    new Map(heard.filter((each) => each.kind === kind).map(({ run, rendered }) => [run, rendered]))
  const [levels, noises] = [of('level'), of('noise in a pause')]
  const recorded = runs.filter(({ end, stop }) => end.kind === 'recording' && !stop).map(({ id }) => id)
  if (recorded.some((id) => !levels.has(id) || !noises.has(id))) return undefined
  return new Map(recorded.map((id) => [id, levels.get(id)! - noises.get(id)!]))
}
