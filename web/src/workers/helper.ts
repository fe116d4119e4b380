import type { Helper, ThreadPort } from '@iron-hush/core/measure'

/** Another thread, from either side of it. */
export const portOf = (thread: Worker): ThreadPort => ({
  post: (message, transfer) => thread.postMessage(message, transfer as ArrayBuffer[]),
  listen(heard, failed) {
    thread.addEventListener('message', ({ data }) => heard(data))
    if (failed) thread.addEventListener('error', ({ message }) => failed(new Error(message)))
  },
})

/** A thread that takes a share of the channels of a clip. */
export function beginHelper(): Helper {
  const worker = new Worker(new URL('./ear.worker.ts', import.meta.url), { type: 'module' })
  return { ...portOf(worker), end: () => worker.terminate() }
}
