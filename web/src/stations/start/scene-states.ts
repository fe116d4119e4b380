import { shallowRef, watch } from 'vue'
import { wiringFindings, wiringOf } from '@iron-hush/core/circuit'
import { atLeast } from '@iron-hush/core/findings'
import { findingsOf, levelsOfPatch } from '@iron-hush/core/levels'
import { checkPatch, type Patch, type Shelf } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useShoots } from '../../state/shoots'

/** The verdict of a scene, as a shape and in words. */
export interface SceneState {
  words: string
  tone: 'ceiling' | 'settled' | 'quiet'
}

function stateOf(patch: Patch, shelf: Shelf): SceneState {
  if (checkPatch(patch, shelf).length) return { words: '\u25B2 cannot be computed', tone: 'ceiling' }
  const levels = levelsOfPatch(patch, shelf)
  const { plan, brief } = patch
  const findings = [
    ...wiringFindings(wiringOf(patch, shelf)),
    ...findingsOf(levels, { plan, wantedSpeechToNoiseDb: brief.wantedSpeechToNoiseDb, patch }),
  ]
  const harmful = findings.filter(({ severity }) => atLeast(severity, 'harmful')).length
  if (harmful) return { words: `\u25B2 ${harmful} need${harmful === 1 ? 's' : ''} you`, tone: 'ceiling' }
  if (!levels.runs.some(({ end }) => end.kind === 'recording'))
    return { words: '\u2013 nothing yet', tone: 'quiet' }
  return findings.some(({ severity }) => severity === 'degraded')
    ? { words: '\u25CB could be better', tone: 'quiet' }
    : { words: '\u2713 ready', tone: 'settled' }
}

/** The verdict of every listed scene, worked out one after another once the page is idle. */
export function useSceneStates() {
  const shoots = useShoots()
  const gear = useGear()
  const states = shallowRef(new Map<string, SceneState>())
  const known = new Map<string, number>()
  let turn = 0

  async function work(): Promise<void> {
    const mine = ++turn
    for (const { id, revision } of shoots.list.flatMap(({ scenes }) => scenes)) {
      if (known.get(id) === revision) continue
      const patch = await shoots.patchOf(id).catch(() => undefined)
      if (mine !== turn) return
      if (!patch) continue
      states.value = new Map(states.value).set(id, stateOf(patch, gear.shelf))
      known.set(id, revision)
      await new Promise((resolve) => setTimeout(resolve))
    }
  }
  watch(
    () => shoots.list,
    () => void work(),
    { immediate: true },
  )
  return states
}
