import { Refusal } from '@iron-hush/core/model'

/** A refusal does not survive the way out of a worker as what it is: it goes as its sentence. */
export type Told<T> = { value: T } | { refused: string }

/** In the worker: the answer of some work, or why it was refused. */
export async function answered<T>(work: () => Promise<T>): Promise<Told<T>> {
  try {
    return { value: await work() }
  } catch (error) {
    if (error instanceof Refusal) return { refused: error.message }
    throw error
  }
}

/** In the page: the answer, or the refusal thrown again. */
export function unwrap<T>(told: Told<T>): T {
  if ('refused' in told) throw new Refusal(told.refused)
  return told.value
}
