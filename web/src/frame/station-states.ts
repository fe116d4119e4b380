import { computed } from 'vue'
import { atLeast, type Severity } from '@iron-hush/core/findings'
import { clipFindings } from '@iron-hush/core/measure'
import { useMeasuring } from '../state/measuring'
import { useProofs } from '../state/proofs'
import { useScene } from '../state/scene'
import { useTakes } from '../state/takes'

/** How far a station is, by shape and in words. */
export interface StationState {
  mark: string
  words: string
  needs?: boolean
  settled?: boolean
}

const nothing: StationState = { mark: '\u2013', words: 'nothing yet' }
const settled: StationState = { mark: '\u2713', words: 'settled', settled: true }
const inProgress = (words: string): StationState => ({ mark: '\u25CB', words })
const needs = (count: number): StationState => ({
  mark: '\u25B2',
  words: `${count} need${count === 1 ? 's' : ''} you`,
  needs: true,
})
const harmfulIn = (findings: readonly { severity: Severity }[]): number =>
  findings.filter(({ severity }) => atLeast(severity, 'harmful')).length
/** Degraded findings could be better; without any it is settled. */
const settledOr = (findings: readonly { severity: Severity }[]): StationState =>
  findings.some(({ severity }) => severity === 'degraded') ? inProgress('could be better') : settled

/** How far each station is, from what is known. */
export function useStationStates() {
  const scene = useScene()
  const takes = useTakes()
  const proofs = useProofs()
  const measuring = useMeasuring()
  const recorded = computed(() => scene.runs.filter(({ end }) => end.kind === 'recording'))

  const brief = computed(() => {
    const { sources } = scene.openPatch.brief
    const heard = new Set(recorded.value.filter(({ stop }) => !stop).map(({ source }) => source.id))
    const unheard = sources.filter(({ id }) => !heard.has(id)).length
    return !sources.length ? nothing : unheard ? inProgress(`${unheard} not recorded`) : settled
  })
  const patch = computed(() => {
    const wrong = scene.problems.length + harmfulIn(scene.wiringFaults)
    const loose = scene.findings.filter(({ code }) => code === 'leads nowhere')
    return wrong ? needs(wrong) : scene.runs.length ? settledOr([...scene.wiringFaults, ...loose]) : nothing
  })
  const levels = computed(() => {
    const harmful = harmfulIn(scene.findings)
    return harmful ? needs(harmful) : recorded.value.length ? settledOr(scene.findings) : nothing
  })
  const lineUp = computed(() => {
    const readings = new Set(scene.patch?.lineUp.map(({ step }) => step)).size
    return readings ? inProgress(`${readings} read`) : nothing
  })
  const proof = computed(() => {
    // findings of another scene are shown there
    const refused = measuring.waiting.filter(
      (each) => each.refused && each.scene === scene.document?.id,
    ).length
    const faulty =
      refused + proofs.list.filter(({ measurement }) => harmfulIn(clipFindings(measurement))).length
    // a clip without findings is measured, not proved: not everything can be heard by a program
    return faulty
      ? needs(faulty)
      : proofs.list.length
        ? inProgress(`${proofs.list.length} measured`)
        : nothing
  })
  const roll = computed(() => {
    const count = takes.list.length
    if (takes.rolling) return inProgress('rolling')
    return count ? inProgress(`${count} take${count === 1 ? '' : 's'}`) : nothing
  })
  return computed<Partial<Record<string, StationState>>>(() =>
    scene.patch
      ? {
          brief: brief.value,
          patch: patch.value,
          levels: levels.value,
          'line-up': lineUp.value,
          proof: proof.value,
          roll: roll.value,
        }
      : {},
  )
}
