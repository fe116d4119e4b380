import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { equalLoudness } from '@iron-hush/core/measure'
import { applyEdits, type Edit } from '@iron-hush/core/edits'
import type { Patch } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startListen } from '../../workers/compute'
import type { Rendered } from '../../workers/listening'

/** A setting of the chain that can be heard. */
export interface Side {
  name: string
  patch: Patch
}

const seconds = 10
/** Where the volume stands at first, dB: low. */
const startVolumeDb = -30

/**
 * The run in hand, heard under two settings at one loudness: now, and what Balance proposes or what was kept. Blind, it
 * hides which is which and keeps a tally of what was preferred.
 */
export function useListening(proposed: () => readonly Edit[]) {
  const scene = useScene()
  const gear = useGear()
  const open = ref(false)
  const kept = shallowRef<Side>()
  const clip = shallowRef<{ name: string; samples: Float32Array }>()
  /** How far the radios of the run are apart, m; undefined for a link that never drops out. */
  const radioM = ref<number>()
  const rendered = shallowRef<Rendered[]>([])
  const sides = shallowRef<Side[]>([])
  const progress = ref<number>()
  const playing = ref(false)
  const side = ref(0)
  const volumeDb = ref(startVolumeDb)
  const blind = ref(false)
  /** Blind, the sides change places by chance. */
  const swapped = ref(false)
  const tally = ref<[number, number]>([0, 0])
  let job: Job<Rendered[]> | undefined
  let context: AudioContext | undefined
  let voices: { source: AudioBufferSourceNode; gain: GainNode }[] = []

  const heard = computed(() => (swapped.value && blind.value ? 1 - side.value : side.value))

  function sidesNow(): Side[] {
    const now = scene.patch
    if (!now) return []
    const edits = proposed()
    const other: Side | undefined =
      edits.length > 0
        ? { name: 'proposed', patch: applyEdits(now, edits, gear.shelf) }
        : kept.value && kept.value.patch !== now
          ? kept.value
          : undefined
    return [{ name: 'now', patch: now }, ...(other ? [other] : [])]
  }

  async function listen(): Promise<void> {
    const run = scene.run
    if (!run) return
    open.value = true
    stop()
    job?.cancel()
    sides.value = sidesNow()
    side.value = 0
    swapped.value = Math.random() < 0.5
    progress.value = 0
    const mine = startListen(
      sides.value.map(({ patch }) => patch),
      {
        box: run.end.box,
        track: run.end.track,
        seconds,
        seed: 1,
        clip: clip.value?.samples,
        radioM: radioM.value,
      },
      gear.all,
      (share) => {
        if (job === mine) progress.value = share
      },
    )
    job = mine
    try {
      rendered.value = await mine.result
      if (job === mine) play()
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
    } finally {
      if (job === mine) {
        progress.value = undefined
        job = undefined
      }
    }
  }

  function play(): void {
    stop()
    if (rendered.value.length === 0) return
    context ??= new AudioContext()
    const audio = context
    void audio.resume()
    const equal = equalLoudness(rendered.value.map(({ heard: each }) => each))
    const startAt = audio.currentTime + 0.05
    voices = rendered.value.map(({ samples, rateHz }, index) => {
      const buffer = audio.createBuffer(1, samples.length, rateHz)
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0)
      const source = audio.createBufferSource()
      source.buffer = buffer
      source.loop = true
      // what lies between the two is brought up to a level for listening before the volume takes it down
      const own = equal[index]! * listeningGain()
      const level = audio.createGain()
      level.gain.value = own
      const gain = audio.createGain()
      gain.gain.value = 0
      source.connect(level).connect(gain).connect(audio.destination)
      source.start(startAt)
      return { source, gain }
    })
    playing.value = true
    mix()
  }

  /** Brings the softest of the sounds to -20 dBFS. */
  function listeningGain(): number {
    const levels = rendered.value.map(({ heard: { levelDbfsA } }) => levelDbfsA).filter(Number.isFinite)
    return levels.length ? 10 ** ((-20 - Math.min(...levels)) / 20) : 1
  }

  function mix(): void {
    for (const [index, { gain }] of voices.entries())
      gain.gain.setTargetAtTime(
        index === heard.value ? 10 ** (volumeDb.value / 20) : 0,
        context!.currentTime,
        0.01,
      )
  }

  function stop(): void {
    for (const { source } of voices) source.stop()
    voices = []
    playing.value = false
  }

  function close(): void {
    stop()
    job?.cancel()
    job = undefined
    progress.value = undefined
    open.value = false
  }

  function keep(): void {
    if (scene.patch) kept.value = { name: 'as kept', patch: scene.patch }
  }

  /** Blind: the one being heard is liked better; the two change places by chance for the next. */
  function prefer(): void {
    const next: [number, number] = [...tally.value]
    next[heard.value]!++
    tally.value = next
    swapped.value = Math.random() < 0.5
    mix()
  }

  watch([side, volumeDb, blind], mix)
  watch(blind, () => (tally.value = [0, 0]))
  watch(
    () => scene.run?.id,
    () => {
      if (open.value) close()
    },
  )
  watch(
    () => scene.document?.id,
    () => (kept.value = undefined),
  )
  onUnmounted(() => {
    close()
    void context?.close()
  })

  return {
    open,
    kept,
    clip,
    radioM,
    rendered,
    sides,
    progress,
    playing,
    side,
    heard,
    volumeDb,
    blind,
    tally,
    listen,
    play,
    stop,
    close,
    keep,
    prefer,
  }
}
