import { shallowRef } from 'vue'
import type { ClipSoFar } from '@iron-hush/core/measure'
import type { Measurement } from '@iron-hush/core/model'
import { startMeasure } from '../workers/compute'

/** A clip that is being read, or waits its turn. */
export interface QueuedClip {
  id: string
  name: string
  file: Blob
  /** How much of it is read, 0 to 1. */
  share: number
  /** Intermediate results. */
  soFar: ClipSoFar | undefined
  isBeingRead: boolean
  /** Why it could not be read; it stays until it is tried again or dismissed. */
  refused?: string
}

/** Most clips read at once: more would only wait for the card. */
const mostAtOnce = 4
const cores = globalThis.navigator?.hardwareConcurrency ?? 2
const atOnce = Math.min(mostAtOnce, Math.max(2, cores - 1))

/** Reads clips, as many at once as there are cores. */
export function useClipQueue<Clip extends QueuedClip>(
  measured: (clip: Clip, measurement: Measurement) => void,
  start: typeof startMeasure = startMeasure,
) {
  const waiting = shallowRef<readonly Clip[]>([])
  /** Functions that stop the readings under way, by id. */
  const reading = new Map<string, () => void>()

  function add(clips: readonly Clip[]): void {
    waiting.value = [...waiting.value, ...clips]
    readOn()
  }
  function readOn(): void {
    for (const clip of waiting.value) {
      if (reading.size >= atOnce) return
      if (!reading.has(clip.id) && !clip.refused) void read(clip).finally(readOn)
    }
  }
  const change = (id: string, to: Partial<QueuedClip>) =>
    (waiting.value = waiting.value.map((each) => (each.id === id ? { ...each, ...to } : each)))

  async function read(clip: Clip): Promise<void> {
    const { id } = clip
    const job = start(clip.file, clip.name, (share, soFar) => change(id, { share, soFar }))
    const { result, stop: stopReading } = stoppable(job)
    reading.set(id, stopReading)
    change(id, { isBeingRead: true })
    try {
      const measurement = await result
      if (measurement) measured(clip, measurement)
      drop(id)
    } catch (error) {
      const refused = error instanceof Error ? error.message : String(error)
      change(id, { refused, isBeingRead: false, share: 0, soFar: undefined })
    } finally {
      reading.delete(id)
    }
  }
  /** Reads a clip once more that could not be read. */
  function again(id: string): void {
    change(id, { refused: undefined })
    readOn()
  }
  function drop(id: string): void {
    waiting.value = waiting.value.filter((each) => each.id !== id)
  }
  /** Stops one clip, or dismisses it where it could not be read; the others go on. */
  function stop(id: string): void {
    const stopReading = reading.get(id)
    if (stopReading) stopReading()
    else drop(id)
  }
  /** Stops every clip that is not measured yet. */
  function stopAll(): void {
    const running = [...reading.values()]
    waiting.value = waiting.value.filter(({ id, refused }) => reading.has(id) || refused)
    for (const stopReading of running) stopReading()
  }
  return { waiting, add, again, stop, stopAll }
}

/** A stopped reading has no result. */
function stoppable(job: ReturnType<typeof startMeasure>) {
  let stop: () => void = job.cancel
  const stopped = new Promise<undefined>((resolve) => {
    stop = () => {
      job.cancel()
      resolve(undefined)
    }
  })
  return { result: Promise.race([job.result, stopped]), stop }
}
