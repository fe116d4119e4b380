import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import type { SchoolSettings, TargetSettings } from '@iron-hush/core/balance'
import type { Plan } from '@iron-hush/core/model'
import type { KitOption } from '@iron-hush/core/plan'
import { schoolWords, targetWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startKits, startSchools, startTargets } from '../../workers/compute'

/** Worst speech-to-noise of a way, dB. */
const heardDb = ({ planned: { run } }: KitOption) => run?.speechToNoiseDb ?? -Infinity

/** The ways to use the kit of a scene and the schools of gain and of peaks, worked out for the current scene. */
export function useComparing() {
  const scene = useScene()
  const gear = useGear()
  const kits = shallowRef<KitOption[]>([])
  const schools = shallowRef<SchoolSettings[]>([])
  const targets = shallowRef<TargetSettings[]>([])
  /** Share that was tried; undefined when nothing is under way. */
  const tried = ref<number>()
  let jobs: Job<unknown>[] = []

  function stop(): void {
    for (const { cancel } of jobs) cancel()
    jobs = []
    tried.value = undefined
  }
  async function compare(): Promise<void> {
    stop()
    if (!scene.patch) return
    kits.value = []
    schools.value = []
    targets.value = []
    tried.value = 0
    if (!gear.isWhole) return
    const comparing = startKits(scene.patch, gear.all, (share, found) => {
      if (jobs[0] !== comparing) return
      tried.value = share
      if (found) kits.value = [...kits.value, found]
    })
    const bySchool = startSchools(scene.patch, gear.all)
    const byTarget = startTargets(scene.patch, gear.all)
    jobs = [comparing, bySchool, byTarget]
    try {
      const found = await bySchool.result
      if (jobs[1] === bySchool) schools.value = found
      const balanced = await byTarget.result
      if (jobs[2] === byTarget) targets.value = balanced
      await comparing.result
    } catch (error) {
      if (jobs[0] === comparing) useNotices().say(error instanceof Error ? error.message : String(error))
    } finally {
      if (jobs[0] === comparing) stop()
    }
  }
  watch([() => scene.patch, () => gear.isWhole], compare, { immediate: true })
  void gear.whenWhole()
  onUnmounted(stop)
  const sorted = computed(() =>
    [...kits.value].sort(
      (one, other) =>
        Number(one.planned.dead > 0) - Number(other.planned.dead > 0) || heardDb(other) - heardDb(one),
    ),
  )
  const groups = computed(() => groupsOf(schools.value, targets.value, scene.openPatch.plan))
  return { kits: sorted, groups, tried, stop }
}

/** The current chain in other ways: its gain and its peaks as different schools have them. */
function groupsOf(schools: readonly SchoolSettings[], targets: readonly TargetSettings[], plan: Plan) {
  return [
    {
      title: 'This chain, as two schools set it',
      rows: schools.map((each) => ({ ...each, ...schoolWords[each.school], isNow: false, plan: undefined })),
    },
    {
      title: 'This chain, by where its peaks lie',
      rows: targets.map((each) => ({
        ...each,
        ...targetWords(each.target),
        isNow: each.target === plan.peakTarget,
        plan: each.target === plan.peakTarget ? undefined : { ...plan, peakTarget: each.target },
      })),
    },
  ].filter(({ rows }) => rows.length)
}
