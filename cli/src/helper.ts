import { type MessagePort, type Transferable, Worker } from 'node:worker_threads'
import type { Helper, ThreadPort } from '@iron-hush/core/measure'

/** Another thread, from either side of it. */
export const portOf = (thread: MessagePort | Worker): ThreadPort => ({
  post: (message, transfer) => thread.postMessage(message, transfer as Transferable[]),
  listen(heard, failed) {
    thread.on('message', heard)
    if (failed) thread.on('error', failed)
  },
})

/** A thread that takes a share of the channels of a clip. */
export function beginHelper(): Helper {
  // built into one file each, or both as they are written
  const isBuilt = import.meta.url.endsWith('.mjs')
  const worker = isBuilt
    ? new Worker(new URL('./ear.worker.mjs', import.meta.url))
    : new Worker(new URL('./ear.worker.ts', import.meta.url), { execArgv: ['--import', 'tsx'] })
  return { ...portOf(worker), end: () => void worker.terminate() }
}
