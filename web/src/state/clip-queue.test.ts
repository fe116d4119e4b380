import { flushPromises } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { type Measurement, Refusal } from '@iron-hush/core/model'
import { type QueuedClip, useClipQueue } from './clip-queue'

/** How each clip ends that is being read, by its name. */
const ends = new Map<string, { resolve: (measured: Measurement) => void; reject: (error: Error) => void }>()
const start = (_: Blob, name: string) => ({
  result: new Promise<Measurement>((resolve, reject) => ends.set(name, { resolve, reject })),
  cancel: () => undefined,
})

const clip = (name: string): QueuedClip => ({
  id: `id of ${name}`,
  name,
  file: new Blob(),
  share: 0,
  soFar: undefined,
  isBeingRead: false,
})
const measurement = {} as Measurement
async function fail(name: string, sentence: string): Promise<void> {
  ends.get(name)?.reject(new Refusal(sentence))
  await flushPromises()
}
async function measure(name: string): Promise<void> {
  ends.get(name)?.resolve(measurement)
  await flushPromises()
}

beforeEach(() => ends.clear())

describe('clips that wait', () => {
  it('stay with the sentence where they cannot be read, while the others go on, and can be tried again', async () => {
    const measured = vi.fn<(each: QueuedClip, with_: Measurement) => void>()
    const queue = useClipQueue(measured, start)
    const names = ['one.wav', 'two.wav', 'three.wav', 'four.wav', 'five.wav', 'six.wav']
    queue.add(names.map(clip))
    await fail('one.wav', 'one.wav was refused: it is empty.')
    for (const name of names.slice(1)) await measure(name)
    expect(measured.mock.calls.map(([{ name }]) => name)).toEqual(names.slice(1))
    expect(queue.waiting.value.map(({ name, refused }) => [name, refused])).toEqual([
      ['one.wav', 'one.wav was refused: it is empty.'],
    ])

    ends.delete('one.wav')
    queue.again('id of one.wav')
    expect(queue.waiting.value[0]?.refused).toBeUndefined()
    await measure('one.wav')
    expect(queue.waiting.value).toEqual([])
  })

  it('are stopped together, without what could not be read being lost from sight; that is dismissed by itself', async () => {
    const queue = useClipQueue(() => undefined, start)
    queue.add(['one.wav', 'two.wav', 'three.wav'].map(clip))
    await fail('one.wav', 'it is empty')
    queue.stopAll()
    await flushPromises()
    expect(queue.waiting.value.map(({ name }) => name)).toEqual(['one.wav'])
    queue.stop('id of one.wav')
    expect(queue.waiting.value).toEqual([])
  })
})
