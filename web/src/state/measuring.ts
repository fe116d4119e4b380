import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { channelsOf } from '@iron-hush/core/levels'
import { trackKey } from '@iron-hush/core/model'
import { newId } from '../sync/new-id'
import { type Job, startMadeUpClip, startMeasure } from '../workers/compute'
import { useNotices } from './notices'
import { useProofs } from './proofs'
import { useScene } from './scene'

/** A clip that is being read, or waits its turn. It belongs to the scene that was open when it was given. */
export interface WaitingClip {
  id: string
  name: string
  scene: string
  sceneName: string
  recording: string
  file: Blob
  /** How much of it is read, 0 to 1. */
  share: number
}

/** Clips are read one after another, and go on being read when the station is left. */
export const useMeasuring = defineStore('measuring', () => {
  const scene = useScene()
  const proofs = useProofs()
  const notices = useNotices()
  const waiting = shallowRef<readonly WaitingClip[]>([])
  const current = computed(() => waiting.value[0])
  let reading: { id: string; stop: () => void } | undefined

  function add(files: Iterable<Blob & { name: string }>): void {
    const { document } = scene
    if (!document) return
    const recording = recordingInHand()
    const clips = [...files].map((file) => ({
      id: newId(),
      name: file.name,
      scene: document.id,
      sceneName: document.patch.name,
      recording,
      file,
      share: 0,
    }))
    waiting.value = [...waiting.value, ...clips]
    void readAll()
  }
  async function readAll(): Promise<void> {
    if (reading) return
    for (let clip = current.value; clip; clip = current.value) {
      await read(clip)
      drop(clip.id)
    }
    reading = undefined
  }
  async function read({ id, file, name, scene: of, recording }: WaitingClip): Promise<void> {
    const job: Job<Awaited<ReturnType<typeof startMeasure>['result']>> = startMeasure(file, name, (share) => {
      waiting.value = waiting.value.map((each) => (each.id === id ? { ...each, share } : each))
    })
    const stopped = new Promise<undefined>((resolve) => {
      reading = {
        id,
        stop() {
          job.cancel()
          resolve(undefined)
        },
      }
    })
    try {
      const measured = await Promise.race([job.result, stopped])
      if (measured) proofs.keep(measured, recording, of)
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error))
    }
  }
  function drop(id: string): void {
    waiting.value = waiting.value.filter((each) => each.id !== id)
  }
  /** Stops one clip; the others go on. */
  function stop(id: string): void {
    if (reading?.id === id) reading.stop()
    else drop(id)
  }

  /** The recording of the run in hand: the likeliest that a clip belongs to. */
  function recordingInHand(): string {
    const { run } = scene
    if (run?.end.kind === 'recording') return trackKey(run.end)
    return (scene.levels && channelsOf(scene.levels)[0]?.id) ?? ''
  }

  /** A clip made up from the plan of this run, a little louder than planned, for a first look. */
  async function addMadeUp(): Promise<void> {
    const { run } = scene
    if (!run) return
    const louder = 4
    const bytes = await startMadeUpClip({
      typicalDbfs: Math.min(-8, run.typicalDb + louder),
      noiseDbfsA: run.noiseWithPlaceDb,
      loudestPeakDbfs: run.peakDb + louder,
      lengthS: 12,
      rateHz: 48000,
      seed: 1,
    }).result
    add([new File([bytes as Uint8Array<ArrayBuffer>], 'made-up clip.wav')])
  }

  return { waiting, add, stop, addMadeUp }
})
