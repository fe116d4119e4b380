import { computed, ref, shallowRef, watch } from 'vue'
import type { Balance, Change } from '@iron-hush/core/balance'
import type { Edit } from '@iron-hush/core/edits'
import { type Position, controlKey } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startBalance } from '../../workers/compute'
import { useCuring } from './curing'
import { startSaferBalance } from './safer-balance'

const editOf = ({ part, control, to }: Change): Edit => ({ kind: 'set control', part, control, position: to })

/** Asks for a proposal, one at a time. */
function useProposal() {
  const scene = useScene()
  const gear = useGear()
  const proposal = shallowRef<Balance>()
  const running = ref(false)
  /** Whether the proposal is the best for the plan itself, not for another margin. */
  const forPlan = ref(false)
  let job: Job<Balance> | undefined

  function forget(): void {
    job?.cancel()
    job = undefined
    running.value = false
    proposal.value = undefined
  }
  async function propose(plain: boolean, start: () => Job<Balance>): Promise<void> {
    forPlan.value = plain
    forget()
    if (!scene.patch || !scene.levels) return
    const asked = scene.patch
    running.value = true
    const mine = start()
    job = mine
    try {
      const found = await mine.result
      // a scene that was changed meanwhile has another best
      if (scene.patch !== asked) return
      proposal.value = found
      if (plain && found.changes.length === 0) scene.markBalanced()
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
    } finally {
      if (job === mine) running.value = false
    }
  }
  const ask = () => propose(true, () => startBalance(scene.openPatch, gear.all))
  /** Settings that keep clipping rarer than a limit, as a proposal. */
  const askSafer = (limit: number) =>
    propose(false, () => startSaferBalance(scene.openPatch, gear.all, limit))
  return { proposal, running, forPlan, ask, askSafer, forget }
}

/** A proposal of Balance: asked for, shown as ghosts, accepted whole or one control at a time, or discarded. */
export function useBalancing() {
  const scene = useScene()
  const { proposal, running, forPlan, forget, ...asking } = useProposal()
  const { forgetCures, ...curing } = useCuring()

  function cancel(): void {
    forget()
    forgetCures()
  }
  function asked(ask: () => Promise<void>): Promise<void> {
    forgetCures()
    return ask()
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
    if (forPlan.value && left.length === 0) scene.markBalanced()
  }
  const acceptAll = () => accept(proposal.value?.changes ?? [])
  watch(
    () => scene.patch,
    () => {
      if (!accepting) cancel()
    },
    { flush: 'sync' },
  )

  const ghosts = computed(() => new Map((proposal.value?.changes ?? []).map((each) => [keyOf(each), each])))
  const ghostOf = (key: string): Position | undefined => ghosts.value.get(key)?.to
  return {
    ...{ proposal, running, cancel, accept, acceptAll, ghosts, ghostOf, ...curing },
    ask: () => asked(asking.ask),
    askSafer: (limit: number) => asked(() => asking.askSafer(limit)),
  }
}

const keyOf = ({ part, control }: Change): string => controlKey(part, control)
