import { balance } from '../balance'
import { applyEdits, type Patch, type Shelf } from '../model'
import { type Heard, heardBeside } from './on-samples'

/** What Balance promises of a patch beside the samples, before and after. */
export interface Balanced {
  before: Heard[]
  after: Heard[]
  /** No demand was missed by more before than after: what is won is speech-to-noise. */
  asGood: boolean
  /** Speech-to-noise of the worst run, dB, where the same runs were found on samples before and after. */
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
  const [was, is] = [ratiosOf(before), ratiosOf(after)]
  const both = [...was.keys()].filter((run) => is.has(run))
  return {
    before,
    after,
    asGood:
      missed(found.before.overDb) <= missed(found.after.overDb) + 0.1 &&
      missed(found.before.outsideDb) <= missed(found.after.outsideDb) + 0.1,
    worstDb:
      both.length > 0 && both.length === Math.max(was.size, is.size)
        ? {
            before: Math.min(...both.map((run) => was.get(run)!)),
            after: Math.min(...both.map((run) => is.get(run)!)),
          }
        : undefined,
  }
}

const missed = (db: readonly number[]): number => Math.max(0, ...db)

/** Speech-to-noise of each run as it was rendered. */
function ratiosOf(heard: readonly Heard[]): Map<string, number> {
  const of = (kind: Heard['kind']) =>
    new Map(heard.filter((each) => each.kind === kind).map(({ run, rendered }) => [run, rendered]))
  const [levels, noises] = [of('level'), of('noise in a pause')]
  return new Map([...levels].flatMap(([run, db]) => (noises.has(run) ? [[run, db - noises.get(run)!]] : [])))
}
