import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { recordingOfClip, takeOfClip } from '@iron-hush/core/advice'
import { channelsOf } from '@iron-hush/core/levels'
import type { SoFar } from '@iron-hush/core/measure'
import { trackKey } from '@iron-hush/core/model'
import { newId } from '../sync/new-id'
import { startCard, startMeasure } from '../workers/compute'
import { useClipFiles } from './clip-files'
import { useNotices } from './notices'
import { useProofs } from './proofs'
import { useScene } from './scene'
import { useTakes } from './takes'

/** A clip that is being read, or waits its turn. It belongs to the scene that was open when it was given. */
export interface WaitingClip {
  id: string
  name: string
  scene: string
  sceneName: string
  /** The recording that it belongs to, once the recorder's names of its channels are known. */
  recordingOf: (channelNames?: readonly string[]) => string
  file: Blob
  /** How much of it is read, 0 to 1. */
  share: number
  /** What is known by then. */
  soFar: SoFar | undefined
  isBeingRead: boolean
}

/** More at a time would wait for the card. */
const mostAtOnce = 4
const cores = globalThis.navigator?.hardwareConcurrency ?? 2
const atOnce = Math.min(mostAtOnce, Math.max(2, cores - 1))

/** Clips are read a few at a time, and go on being read when the station is left. */
export const useMeasuring = defineStore('measuring', () => {
  const scene = useScene()
  const proofs = useProofs()
  const takes = useTakes()
  const notices = useNotices()
  const clipFiles = useClipFiles()
  const waiting = shallowRef<readonly WaitingClip[]>([])
  /** How those that are being read are stopped, by id. */
  const reading = new Map<string, () => void>()

  /** @param otherwise the recording of clips whose name says none: if not told, that of the run in hand */
  function add(files: Iterable<Blob & { name: string }>, otherwise = recordingInHand(scene)): void {
    const { document, levels } = scene
    if (!document) return
    const channels = levels ? channelsOf(levels) : []
    const clips = [...files].map((file) => ({
      id: newId(),
      name: file.name,
      scene: document.id,
      sceneName: document.patch.name,
      recordingOf: (names?: readonly string[]) => recordingOfClip(file.name, channels, names) ?? otherwise,
      file,
      share: 0,
      soFar: undefined,
      isBeingRead: false,
    }))
    waiting.value = [...waiting.value, ...clips]
    readOn()
  }
  /** Reads what waits, as many at a time as there are cores. */
  function readOn(): void {
    for (const clip of waiting.value) {
      if (reading.size >= atOnce) return
      if (!reading.has(clip.id)) void read(clip).finally(readOn)
    }
  }
  async function read({ id, ...clip }: WaitingClip): Promise<void> {
    const change = (to: Partial<WaitingClip>) =>
      (waiting.value = waiting.value.map((each) => (each.id === id ? { ...each, ...to } : each)))
    const { result, stop: stopReading } = startReading(clip, (share, soFar) => change({ share, soFar }))
    reading.set(id, stopReading)
    change({ isBeingRead: true })
    try {
      const measured = await result
      if (!measured) return
      const { scene: of, recordingOf, file } = clip
      const recording = recordingOf(measured.stream.channelNames)
      const lastModifiedMs = file instanceof File ? file.lastModified : undefined
      const take =
        scene.document?.id === of ? takeOfClip({ measurement: measured, lastModifiedMs }, takes.list) : null
      clipFiles.files.set(proofs.keep(measured, { scene: of, recording, take }).id, file)
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error))
    } finally {
      reading.delete(id)
      drop(id)
    }
  }
  function drop(id: string): void {
    waiting.value = waiting.value.filter((each) => each.id !== id)
  }
  /** Stops one clip; the others go on. */
  function stop(id: string): void {
    const stopReading = reading.get(id)
    if (stopReading) stopReading()
    else drop(id)
  }

  /** Stops every clip that is not measured yet. */
  function stopAll(): void {
    const running = [...reading.values()]
    waiting.value = waiting.value.filter(({ id }) => reading.has(id))
    for (const stopReading of running) stopReading()
  }

  /** The clips of the stand-in card, for a first look; each is read as soon as it is made. */
  async function addCard(): Promise<void> {
    await startCard((name, bytes) => add([new File([bytes as Uint8Array<ArrayBuffer>], name)], '')).result
  }
  return { waiting, add, stop, stopAll, addCard }
})

/** Reads a clip; what was stopped comes to nothing. */
function startReading(
  { file, name }: Pick<WaitingClip, 'file' | 'name'>,
  progress: (share: number, soFar: SoFar) => void,
) {
  const job = startMeasure(file, name, progress)
  let stop: () => void = job.cancel
  const stopped = new Promise<undefined>((resolve) => {
    stop = () => {
      job.cancel()
      resolve(undefined)
    }
  })
  return { result: Promise.race([job.result, stopped]), stop }
}

/** The recording of the run in hand: the likeliest that a clip belongs to. */
function recordingInHand({ run, levels }: ReturnType<typeof useScene>): string {
  if (run?.end.kind === 'recording') return trackKey(run.end)
  return (levels && channelsOf(levels)[0]?.id) ?? ''
}
