import { onUnmounted, ref, shallowRef, watch } from 'vue'
import { equalLoudness } from '@iron-hush/core/measure'
import { applyEdits, type Edit } from '@iron-hush/core/edits'
import { type Patch, known } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startListen } from '../../workers/compute'
import type { Rendered } from '../../workers/listening'
import { useBlindTest } from '../../parts/blind-test'
import { usePlayer } from '../../parts/player'

/** A setting of the chain that can be heard. */
export interface Side {
  name: string
  patch: Patch
  /** The recording to play; left out: that of the selected run. */
  end?: { box: string; track: string }
}

const seconds = 10
/** Initial volume, dB: low. */
const startVolumeDb = -30

/** The current chain, and beside it what Balance proposes or what was saved to compare. */
function useSides(proposed: () => readonly Edit[]) {
  const scene = useScene()
  const gear = useGear()
  const kept = shallowRef<Side>()

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
  function keep(): void {
    if (scene.patch) kept.value = { name: 'as kept', patch: scene.patch }
  }
  watch(
    () => scene.document?.id,
    () => (kept.value = undefined),
  )
  return { kept, keep, sidesNow }
}

/** Renders the selected run under every side, one rendering at a time. */
function useRendering() {
  const scene = useScene()
  const gear = useGear()
  const clip = shallowRef<{ name: string; samples: Float32Array }>()
  /** How far the radios of the run are apart, m; undefined for a link that never drops out. */
  const radioM = ref<number>()
  const rendered = shallowRef<Rendered[]>([])
  const progress = ref<number>()
  let job: Job<Rendered[]> | undefined

  function cancel(): void {
    job?.cancel()
    job = undefined
    progress.value = undefined
  }
  /** Whether it was rendered to its end, and not cancelled or refused. */
  async function render(sides: readonly Side[]): Promise<boolean> {
    const own = known(scene.run, 'a run to listen to').end
    cancel()
    progress.value = 0
    let mine: Job<Rendered[]> | undefined
    const heard: Rendered[] = []
    try {
      for (const [at, { patch, end: { box, track } = own }] of sides.entries()) {
        mine = startListen(
          [patch],
          { box, track, seconds, seed: 1, clip: clip.value?.samples, radioM: radioM.value },
          gear.all,
          (share) => {
            if (job === mine) progress.value = (at + share) / sides.length
          },
        )
        job = mine
        heard.push(...(await mine.result))
        if (job !== mine) return false
      }
      rendered.value = heard
      return true
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
      return false
    } finally {
      if (job === mine) {
        progress.value = undefined
        job = undefined
      }
    }
  }
  return { clip, radioM, rendered, progress, render, cancel }
}

/**
 * The selected run, heard under two settings at one loudness: now, and what Balance proposes or what was saved to
 * compare. Blind, it hides which is which and keeps a tally of what was preferred.
 */
export function useListening(proposed: () => readonly Edit[]) {
  const scene = useScene()
  const { kept, keep, sidesNow } = useSides(proposed)
  const { clip, radioM, rendered, progress, render, cancel } = useRendering()
  const player = usePlayer()
  const open = ref(false)
  const sides = shallowRef<Side[]>([])
  const side = ref(0)
  const volumeDb = ref(startVolumeDb)
  const { blind, tally, heard, shuffle, prefer } = useBlindTest(side)

  /** Hears another setting beside the current one. */
  function listenBeside(other: Side): Promise<void> {
    kept.value = other
    return listen()
  }
  async function listen(): Promise<void> {
    if (!scene.run) return
    open.value = true
    player.stop()
    sides.value = sidesNow()
    side.value = 0
    shuffle()
    if (await render(sides.value)) play()
  }
  const mix = () => player.mix(heard.value, volumeDb.value)
  function play(): void {
    player.play(rendered.value, equalLoudness(rendered.value.map(({ heard: each }) => each)))
    mix()
  }
  function close(): void {
    player.stop()
    cancel()
    open.value = false
  }

  watch([heard, volumeDb], mix)
  watch(
    () => scene.run?.id,
    () => {
      if (open.value) close()
    },
  )
  onUnmounted(() => {
    close()
    player.close()
  })
  const { playing, stop } = player
  return {
    ...{ open, kept, clip, radioM, rendered, sides, progress, playing, side, heard, volumeDb, blind, tally },
    ...{ listen, listenBeside, play, stop, close, keep, prefer },
  }
}
