import { expect, it } from 'vitest'
import { reporting } from './reporting'

it('answers when the last report has arrived, in whatever order the two come', async () => {
  const arrived: number[] = []
  let arrive: () => void = () => undefined
  const slow = (part: number) =>
    new Promise<void>((resolve) => {
      arrive = () => {
        arrived.push(part)
        resolve()
      }
    })
  let answer: string | undefined
  const working = reporting(slow, (report) => {
    report(1)
    return 'done'
  }).then((given) => (answer = given))
  await new Promise((resolve) => setTimeout(resolve, 20))
  expect(answer).toBeUndefined()
  arrive()
  await working
  expect([answer, arrived]).toEqual(['done', [1]])
})
