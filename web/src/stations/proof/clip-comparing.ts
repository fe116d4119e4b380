import { onScopeDispose, ref, shallowRef, watch } from 'vue'
import { type Alignment, equalLoudness } from '@iron-hush/core/measure'
import { useBlindTest } from '../../parts/blind-test'
import { usePlayer } from '../../parts/player'
import { useNotices } from '../../state/notices'
import { type Job, startAligned, startChannelHeard } from '../../workers/compute'
import type { ClipChannel } from '../../workers/sound.worker'
import type { Rendered } from '../../workers/listening'

/** Length of a stretch that is played, s. */
const lengthS = 12
const startVolumeDb = -30

/** Jobs of which only the latest count: beginning some ends those before them. */
function useOneWork() {
  const working = ref(false)
  let jobs: Job<unknown>[] = []

  function cancel(): void {
    for (const job of jobs) job.cancel()
    jobs = []
    working.value = false
  }
  /** Runs jobs that end those before them; undefined where they were ended themselves. */
  async function run<Results extends unknown[]>(
    ...next: { [Index in keyof Results]: Job<Results[Index]> }
  ): Promise<Results | undefined> {
    cancel()
    jobs = next
    working.value = true
    try {
      const results = (await Promise.all(next.map(({ result }) => result))) as Results
      return jobs === next ? results : undefined
    } catch (error) {
      if (jobs === next) useNotices().say(error instanceof Error ? error.message : String(error))
      return undefined
    } finally {
      if (jobs === next) working.value = false
    }
  }
  return { working, run, cancel }
}

type Sides = () => readonly [ClipChannel, ClipChannel] | undefined

/**
 * The stretch played of two aligned channels, read again when it moves.
 *
 * @param interrupt stops what plays; its answer goes on with it
 */
function useStretches(sides: Sides, interrupt: () => () => void) {
  const alignment = shallowRef<Alignment>()
  /** How much later the second begins than the first, s; set by hand if the sound does not show it. */
  const offsetS = ref(0)
  /** Where it is listened to, in the first. */
  const atS = ref(0)
  const heardSides = shallowRef<readonly [Rendered, Rendered]>()
  const { working, run, cancel } = useOneWork()

  async function align(): Promise<void> {
    const both = sides()
    interrupt()
    heardSides.value = alignment.value = undefined
    if (!both) return cancel()
    const found = await run<[Alignment]>(startAligned(...both))
    if (!found) return
    ;[alignment.value] = found
    offsetS.value = found[0].offsetS
    atS.value = Math.max(atS.value, offsetS.value, 0)
    await read()
  }
  /** Reads what is listened to of both. */
  async function read(): Promise<void> {
    const both = sides()
    if (!both) return
    const goOn = interrupt()
    const [one, other] = both
    const [from, secondFrom] = [atS.value, atS.value - offsetS.value]
    const found = await run<[Rendered, Rendered]>(
      startChannelHeard(one, from, from + lengthS),
      startChannelHeard(other, secondFrom, secondFrom + lengthS),
    )
    if (!found) return
    heardSides.value = found
    goOn()
  }
  watch([offsetS, atS], () => {
    if (alignment.value) void read()
  })
  onScopeDispose(cancel)
  return { alignment, offsetS, atS, heardSides, working, align }
}

/** Two channels of clips, laid beside each other by their sound and heard in turn at one loudness. */
export function useClipComparing(sides: Sides) {
  const player = usePlayer()
  const side = ref(0)
  const volumeDb = ref(startVolumeDb)
  const { blind, tally, heard, shuffle, prefer } = useBlindTest(side)
  const { align, ...stretches } = useStretches(sides, interrupt)

  function interrupt(): () => void {
    const isPlaying = player.playing.value
    player.stop()
    return isPlaying ? play : () => undefined
  }
  const mix = () => player.mix(heard.value, volumeDb.value)
  function play(): void {
    const both = stretches.heardSides.value
    if (!both) return
    player.play(both, equalLoudness(both.map((each) => each.heard)))
    mix()
  }
  watch([heard, volumeDb], mix)
  watch(
    () =>
      sides()
        ?.map(({ id, channel }) => `${id} ${channel}`)
        .join(),
    () => {
      stretches.atS.value = 0
      shuffle()
      void align()
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    player.stop()
    player.close()
  })
  return {
    ...stretches,
    ...{ side, volumeDb, blind, tally, heard },
    ...{ playing: player.playing, play, stop: player.stop, prefer },
  }
}
