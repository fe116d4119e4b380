import { computed, ref, shallowRef, watch } from 'vue'
import type { Balance, Change } from '@iron-hush/core/balance'
import type { Edit, Position } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startBalance } from '../../workers/compute'

const editOf = ({ part, control, to }: Change): Edit => ({ kind: 'set control', part, control, position: to })

/** A proposal of Balance: asked for, shown as ghosts, accepted whole or one control at a time, or left. */
export function useBalancing() {
  const scene = useScene()
  const gear = useGear()
  const proposal = shallowRef<Balance>()
  const running = ref(false)
  let job: Job<Balance> | undefined

  async function ask(): Promise<void> {
    cancel()
    if (!scene.patch || !scene.levels) return
    const asked = scene.document
    running.value = true
    const mine = startBalance(scene.patch, gear.all)
    job = mine
    try {
      const found = await mine.result
      // a scene that was changed meanwhile has another best
      if (scene.document?.patch === asked?.patch) proposal.value = found
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
    } finally {
      if (job === mine) running.value = false
    }
  }
  function cancel(): void {
    job?.cancel()
    job = undefined
    running.value = false
    proposal.value = undefined
  }

  let accepting = false
  function accept(changes: readonly Change[]): void {
    if (changes.length === 0) return
    const all = proposal.value
    accepting = true
    const done = scene.change(changes.map(editOf), changes.length === 1 ? 'one step of Balance' : 'Balance')
    accepting = false
    if (!done || !all) return
    const left = all.changes.filter((change) => !changes.includes(change))
    proposal.value = left.length ? { ...all, changes: left } : undefined
  }
  const acceptAll = () => accept(proposal.value?.changes ?? [])

  watch(
    () => scene.patch,
    () => {
      if (!accepting) cancel()
    },
    { flush: 'sync' },
  )

  const ghosts = computed(
    () =>
      new Map<string, Change>(
        (proposal.value?.changes ?? []).map((change) => [`${change.part}.${change.control}`, change]),
      ),
  )
  const ghostOf = (key: string): Position | undefined => ghosts.value.get(key)?.to

  return { proposal, running, ask, cancel, accept, acceptAll, ghosts, ghostOf }
}
