import { expect, it, vi } from 'vitest'
import { known } from '@iron-hush/core/model'
import { type HeardWith, type Planned, planScene, scenarios } from '@iron-hush/core/plan'
import { shelf } from '../tests/demo'
import type { Job } from './compute'
import { planEach } from './suggesting'

const thing = (id: string) => known(shelf.get(id), id)
const choices = ['oriel-on-camera-gun', 'oriel-short-gun', 'oriel-room-omni'].map((id): HeardWith => ({
  microphone: thing(id),
}))
const answers = choices.map((heardWith) =>
  planScene({ camera: thing('oriel-compact-camcorder'), scenario: scenarios[0]!, heardWith }, shelf),
)

/** A plan that ends when it is told to. */
interface UnderWay {
  end: () => void
  fail: (error: Error) => void
  cancel: () => void
}
function plans() {
  const underWay = new Set<UnderWay>()
  const start = (heardWith: HeardWith): Job<Planned[]> => {
    const cancel = vi.fn()
    const result = new Promise<Planned[]>((resolve, fail) => {
      const mine = { end, fail, cancel }
      function end(): void {
        underWay.delete(mine)
        resolve(answers[choices.indexOf(heardWith)]!)
      }
      underWay.add(mine)
    })
    return { result, cancel }
  }
  return { underWay, start }
}

it('plans several at a time, and gives the best of each, the best first, in whatever order they come', async () => {
  const { underWay, start } = plans()
  const shares: number[] = []
  const sizes: number[] = []
  const { result } = planEach(choices, start, (share, soFar) => {
    shares.push(share)
    sizes.push(soFar.length)
  })
  const atOnce = underWay.size
  expect(atOnce).toBeGreaterThan(0)
  for (let ended = 1; ended <= choices.length; ended++) {
    known([...underWay].at(-1), 'a plan under way').end()
    await vi.waitFor(() => expect(shares).toHaveLength(ended))
    expect(underWay.size).toBe(Math.min(atOnce, choices.length - ended))
  }
  expect(shares.at(-1)).toBe(1)
  // what is found shows at once
  expect(sizes).toEqual([1, 2, 3])
  const worst = (each: readonly Planned[]) => each.map(({ worstDb }) => worstDb)
  expect(worst(await result)).toEqual(
    answers.flatMap((each) => worst(each.slice(0, 1))).sort((one, other) => other - one),
  )
})

it('is ended as a whole: when it is cancelled, and when one of the plans fails', async () => {
  const [stopped, failed] = [plans(), plans()]
  planEach(choices, stopped.start, () => undefined).cancel()
  for (const { cancel } of stopped.underWay) expect(cancel).toHaveBeenCalledOnce()
  const { result } = planEach(choices, failed.start, () => undefined)
  known([...failed.underWay][0], 'a plan under way').fail(new Error('the worker is gone'))
  await expect(result).rejects.toThrow('the worker is gone')
  for (const { cancel } of failed.underWay) expect(cancel).toHaveBeenCalledOnce()
})
