import { computed, ref, shallowRef, watch } from 'vue'
import { type Balance, byWorth, type Change, type Cure } from '@iron-hush/core/balance'
import type { Edit } from '@iron-hush/core/edits'
import { type Position, Refusal } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { type Job, startBalance, startCures, startSafer } from '../../workers/compute'
import { chanceLimits, chanceWords } from './odds'

/** Draws behind a chance that is asked for. */
const saferDraws = 2000

const editOf = ({ part, control, to }: Change): Edit => ({ kind: 'set control', part, control, position: to })

/** A proposal of Balance: asked for, shown as ghosts, accepted whole or one control at a time, or left. */
export function useBalancing() {
  const scene = useScene()
  const gear = useGear()
  const proposal = shallowRef<Balance>()
  const running = ref(false)
  const cures = shallowRef<Cure[]>()
  /** Share of the candidates for a cure that were tried. */
  const tried = ref(0)
  const curing = ref(false)
  let job: Job<Balance> | undefined
  let curingJob: Job<Cure[]> | undefined

  /** The proposal is the best for the plan itself, and not for a margin of its own. */
  let forPlan = false

  function ask(): Promise<void> {
    forPlan = true
    return propose(() => startBalance(scene.patch!, gear.all))
  }
  /** Settings that keep clipping rarer than a limit, as a proposal. */
  function askSafer(limit: number): Promise<void> {
    forPlan = false
    return propose(() => saferBalance(limit))
  }

  function saferBalance(limit: number): Job<Balance> {
    const { result, cancel: end } = startSafer(scene.patch!, gear.all, limit, saferDraws, 1)
    const words = chanceLimits.find((each) => each.limit === limit)!.words
    return {
      cancel: end,
      result: result.then((safer) => {
        if (!safer)
          throw new Refusal(
            `No setting keeps clipping rarer than ${words} here. Ask Balance what would cure it, or take a microphone that stands more.`,
          )
        const ours = safer.odds.tracks.filter(({ automatic }) => !automatic)
        const worst = Math.max(0, ...ours.map(({ clipping }) => clipping))
        const besides = ours.length < safer.odds.tracks.length ? ' What automatic gain sets is left out.' : ''
        const reason = `With ${safer.marginDb} dB under every ceiling the worst recording clips in ${chanceWords(worst)}.${besides}`
        return { ...safer.balance, reasons: [reason, ...safer.balance.reasons] }
      }),
    }
  }

  async function propose(start: () => Job<Balance>): Promise<void> {
    cancel()
    if (!scene.patch || !scene.levels) return
    const asked = scene.document
    running.value = true
    const mine = start()
    job = mine
    try {
      const found = await mine.result
      // a scene that was changed meanwhile has another best
      if (scene.document?.patch !== asked?.patch) return
      proposal.value = found
      if (forPlan && found.changes.length === 0) scene.markBalanced()
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
    stopCuring()
    cures.value = undefined
  }

  /** Tries what would cure the chain, and tells of each cure as it is found. */
  async function cure(): Promise<void> {
    if (!scene.patch) return
    stopCuring()
    cures.value = []
    tried.value = 0
    curing.value = true
    const mine = startCures(scene.patch, gear.all, (share, found) => {
      if (curingJob !== mine) return
      tried.value = share
      if (found) cures.value = [...(cures.value ?? []), found].sort(byWorth)
    })
    curingJob = mine
    try {
      const all = await mine.result
      if (curingJob === mine) cures.value = all
    } finally {
      if (curingJob === mine) curing.value = false
    }
  }
  function stopCuring(): void {
    curingJob?.cancel()
    curingJob = undefined
    curing.value = false
  }
  const takeCure = ({ what, edits }: Cure) => scene.change(edits, what)

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
    if (forPlan && left.length === 0) scene.markBalanced()
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

  return {
    proposal,
    running,
    ask,
    askSafer,
    cancel,
    accept,
    acceptAll,
    ghosts,
    ghostOf,
    cures,
    tried,
    curing,
    cure,
    stopCuring,
    takeCure,
  }
}
