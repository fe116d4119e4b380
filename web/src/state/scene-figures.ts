import { computed, type Ref, ref, shallowRef } from 'vue'
import { type LinkReport, type WiredLink, wiringFindings, wiringOf } from '@iron-hush/core/circuit'
import type { LevelFinding } from '@iron-hush/core/findings'
import { findingsOf, type Levels, incrementalLevels, sameCircuits } from '@iron-hush/core/levels'
import { checkPatch, type Patch, type Shelf, usedOf } from '@iron-hush/core/model'
import { verdictOf } from '@iron-hush/core/words'

/** All that follows from the open patch: wiring, levels, what is wrong with them, and the run to look at first. */
export function useSceneFigures(patch: Ref<Patch | undefined>, shelf: Ref<Shelf>) {
  const runId = ref('')
  const problems = computed(() => (patch.value ? checkPatch(patch.value, shelf.value) : []))
  const compute = incrementalLevels()
  const levels = computed<Levels | undefined>(() =>
    patch.value && problems.value.length === 0 ? compute(patch.value, shelf.value) : undefined,
  )
  const wiring = useWiring(patch, shelf, problems)
  const wiringFaults = computed(() => wiringFindings(wiring.value))
  /** Recordings first: they are what the plan is for. */
  const runs = computed(() =>
    [...(levels.value?.runs ?? [])].sort(
      (one, other) => Number(one.end.kind === 'listen') - Number(other.end.kind === 'listen'),
    ),
  )
  /** The patch as Balance left it: until it changes, no finding sends anybody back there. */
  const balancedPatch = shallowRef<Patch>()
  const markBalanced = () => (balancedPatch.value = patch.value)
  const findings = computed<LevelFinding[]>(() =>
    levels.value && patch.value
      ? findingsOf(levels.value, {
          plan: patch.value.plan,
          wantedSpeechToNoiseDb: patch.value.brief.wantedSpeechToNoiseDb,
          balanced: balancedPatch.value === patch.value,
          patch: patch.value,
        })
      : [],
  )
  /** A source that is not recorded has no run: the worst finding of one that has decides. */
  const worstRun = computed(() => findings.value.find(({ subject }) => subject.run)?.subject.run)
  /** The selected run: the one chosen, or else the one with the worst to say. */
  const run = computed(
    () =>
      runs.value.find(({ id }) => id === runId.value) ??
      runs.value.find(({ id }) => id === worstRun.value) ??
      runs.value[0],
  )
  const verdict = computed(() =>
    run.value && patch.value
      ? verdictOf(run.value, patch.value.plan, patch.value.brief.wantedSpeechToNoiseDb)
      : [],
  )
  function stepRun(by: number): void {
    const index = runs.value.findIndex(({ id }) => id === run.value?.id)
    runId.value = runs.value[(index + by + runs.value.length) % runs.value.length]?.id ?? ''
  }
  return {
    problems,
    levels,
    wiring,
    wiringFaults,
    runs,
    run,
    runId,
    stepRun,
    findings,
    verdict,
    markBalanced,
  }
}

/** Of the shelf, what the patch uses: nothing is worked out again when the rest of it comes or changes. */
export function useUsedShelf(patch: Ref<Patch | undefined>, shelf: Ref<Shelf>) {
  return computed<Shelf>((before) => {
    if (!patch.value) return before ?? new Map()
    const used = usedOf(patch.value, shelf.value)
    const isSame = before?.size === used.size && [...used].every(([id, thing]) => before.get(id) === thing)
    return isSame ? before : used
  })
}

/** The wiring of the patch; turning a knob solves no circuit again. */
function useWiring(patch: Ref<Patch | undefined>, shelf: Ref<Shelf>, problems: Ref<string[]>) {
  const solved = new Map<string, LinkReport>()
  let last: { patch: Patch; shelf: Shelf; wiring: WiredLink[] } | undefined
  return computed(() => {
    const now = patch.value
    if (!now || problems.value.length > 0) return []
    if (last?.shelf !== shelf.value || !sameCircuits(last.patch, now, shelf.value)) {
      const wiring = wiringOf(now, shelf.value, (key, solve) => {
        const known = solved.get(key) ?? solve()
        solved.set(key, known)
        return known
      })
      last = { patch: now, shelf: shelf.value, wiring }
    }
    return last.wiring
  })
}
