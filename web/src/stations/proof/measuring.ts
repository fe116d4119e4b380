import { trackKey } from '@iron-hush/core/model'
import { ref } from 'vue'
import { channelsOf } from '@iron-hush/core/levels'
import { useNotices } from '../../state/notices'
import { useProofs } from '../../state/proofs'
import { useScene } from '../../state/scene'
import { type Job, startMadeUpClip, startMeasure } from '../../workers/compute'

interface Going {
  id: number
  name: string
  share: number
  cancel: () => void
}

/** Clips that are being read, one after another. */
export function useMeasuring() {
  const scene = useScene()
  const proofs = useProofs()
  const notices = useNotices()
  const going = ref<Going[]>([])
  let next = 1

  async function measure(file: Blob, name: string, recording?: string): Promise<void> {
    const against = recording ?? recordingInHand()
    const id = next++
    const set = (share: number) =>
      (going.value = going.value.map((each) => (each.id === id ? { ...each, share } : each)))
    const drop = () => (going.value = going.value.filter((each) => each.id !== id))
    const job: Job<unknown> & ReturnType<typeof startMeasure> = startMeasure(file, name, set)
    const cancel = () => {
      job.cancel()
      drop()
    }
    going.value = [...going.value, { id, name, share: 0, cancel }]
    try {
      proofs.keep(await job.result, against)
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error))
    } finally {
      drop()
    }
  }
  async function measureAll(files: Iterable<File>): Promise<void> {
    for (const file of files) await measure(file, file.name)
  }

  /** The recording of the run in hand: the likeliest that a clip belongs to. */
  function recordingInHand(): string {
    const { run } = scene
    if (run?.end.kind === 'recording') return trackKey(run.end)
    return (scene.levels && channelsOf(scene.levels)[0]?.id) ?? ''
  }

  /** A clip made up from the plan of this run, a little louder than planned, for a first look. */
  async function measureMadeUp(): Promise<void> {
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
    await measure(new Blob([bytes as Uint8Array<ArrayBuffer>]), 'made-up clip.wav')
  }

  return { going, measureAll, measureMadeUp }
}
