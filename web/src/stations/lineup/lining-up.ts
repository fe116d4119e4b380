import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import type { LineUpFinding } from '@iron-hush/core/findings'
import {
  allTracks,
  type Bench,
  benchOf,
  type LineUpStep,
  isAnswered,
  lineUpSteps,
  meaningOf,
  newReading,
} from '@iron-hush/core/lineup'
import type { ReadingResult } from '@iron-hush/core/model'
import { useQuery } from '../../frame/address'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { newId } from '../../sync/new-id'

/** A step with what its reading means. */
export interface ShownStep extends LineUpStep {
  findings: LineUpFinding[]
  /** Its reading counts; one that is void is asked again. */
  answered: boolean
}

/** Pause after which a scene that is being changed is computed, ms. */
const restMs = 120

/** The steps of the open scene, computed again whenever it or the shelf changes. */
function useSteps() {
  const scene = useScene()
  const gear = useGear()
  const bench = shallowRef<Bench>()
  const steps = shallowRef<ShownStep[]>([])
  function work(): void {
    if (!scene.patch || scene.problems.length > 0) {
      bench.value = undefined
      steps.value = []
      return
    }
    const now = benchOf(scene.patch, gear.shelf)
    bench.value = now
    steps.value = lineUpSteps(now).map((step) => {
      const findings = step.reading ? meaningOf(now, step, step.reading) : []
      return { ...step, findings, answered: step.reading !== undefined && isAnswered(findings) }
    })
  }
  const workSoon = useDebounceFn(work, restMs)
  let readings = scene.patch?.lineUp
  watch(
    () => [scene.patch, gear.shelf],
    () => {
      // a new reading is answered at once
      if (scene.patch?.lineUp === readings) void workSoon()
      else work()
      readings = scene.patch?.lineUp
    },
  )
  work()
  return { bench, steps }
}

/** The steps of the open scene, the current one among them, and readings kept in the scene. */
export function useLiningUp() {
  const scene = useScene()
  const { bench, steps } = useSteps()
  const inAddress = useQuery('step')
  /** The step answered last: the one after it is current, even if earlier ones were skipped. */
  const last = ref<string>()
  const chosen = computed(() => {
    const open = ({ answered }: { answered: boolean }) => !answered
    const from = steps.value.findIndex(({ id }) => id === last.value) + 1
    return (
      steps.value.find(({ id }) => id === inAddress.value) ??
      steps.value.slice(from).find(open) ??
      steps.value.find(open) ??
      steps.value.at(-1)
    )
  })
  const choose = (id: string | undefined) => (inAddress.value = id)
  /** Every track of the chain, whether something is planned on it or not: the wrong one may move. */
  const tracks = computed(() => (bench.value ? allTracks(bench.value) : []))
  const names = computed(() => new Map(tracks.value.map(({ id, name }) => [id, name])))
  const trackName = (track: string): string => names.value.get(track) ?? track
  const done = computed(() => steps.value.filter(({ answered }) => answered).length)

  /** A step was just answered: who works by keys is taken along to the next. */
  const goesOn = ref(false)
  /** Keeps what was read at a step, and goes on to the next unless it `stays`. */
  function keep(
    step: LineUpStep,
    result: ReadingResult,
    { playedDbfs, stays = false }: { playedDbfs?: number; stays?: boolean } = {},
  ): void {
    if (!bench.value) return
    const stamp = { id: newId(), at: new Date().toISOString() }
    const reading = newReading(bench.value, step, result, stamp, playedDbfs)
    if (!scene.change([{ kind: 'keep reading', id: reading.id, reading }], 'a reading of the line-up')) return
    goesOn.value = !stays
    last.value = step.id
    choose(stays ? step.id : undefined)
  }
  function drop({ reading }: LineUpStep): void {
    if (!reading) return
    scene.change(
      [{ kind: 'keep reading', id: reading.id, reading: null }],
      'deleting a reading of the line-up',
    )
  }
  return { bench, steps, chosen, choose, done, tracks, trackName, goesOn, keep, drop }
}
export type LiningUp = ReturnType<typeof useLiningUp>
