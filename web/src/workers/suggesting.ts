import { type Gear, shelfOf } from '@iron-hush/core/model'
import { byWorth, type HeardWith, type Planned, type Question, suggestible } from '@iron-hush/core/plan'
import { type Job, startPlan } from './compute'

const cores = globalThis.navigator?.hardwareConcurrency ?? 2
/** Plans at a time: more wait for memory. */
const mostAtOnce = Math.max(1, Math.min(4, cores))

/** How far a suggestion is, and the best so far. */
type Progress = (share: number, soFar: Planned[]) => void

/** The best scene with each owned thing, best first. Reports progress. */
export const startSuggest = (
  question: Omit<Question, 'heardWith'>,
  gear: readonly Gear[],
  progress: Progress,
): Job<Planned[]> =>
  planEach(
    suggestible(question.camera, shelfOf(gear)),
    (heardWith) => startPlan({ ...question, heardWith }, gear),
    progress,
  )

/** Plans with each of some choices, several at a time. */
export function planEach(
  choices: readonly HeardWith[],
  plan: (heardWith: HeardWith) => Job<Planned[]>,
  progress: Progress,
): Job<Planned[]> {
  const waiting = choices.map((heardWith, index) => ({ heardWith, index }))
  const best: Planned[][] = choices.map(() => [])
  const bestFirst = () => best.flat().sort(byWorth)
  const underWay = new Set<Job<Planned[]>>()
  let done = 0
  async function work(): Promise<void> {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const mine = plan(next.heardWith)
      underWay.add(mine)
      best[next.index] = (await mine.result).slice(0, 1)
      underWay.delete(mine)
      done++
      progress(done / choices.length, bestFirst())
    }
  }
  function cancel(): void {
    waiting.length = 0
    for (const each of underWay) each.cancel()
  }
  const result = Promise.all(Array.from({ length: mostAtOnce }, work)).then(bestFirst)
  // when one fails the answer is gone, and the others need not be waited for
  result.catch(cancel)
  return { result, cancel }
}
