import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { z } from 'zod'
import { type LinkReport, type WiredLink, wiringFindings, wiringOf } from '@iron-hush/core/circuit'
import {
  type Finding,
  findingsOf,
  type Levels,
  levelsAgain,
  sameCircuits,
  verdictOf,
} from '@iron-hush/core/levels'
import {
  applyEdits,
  checkPatch,
  type Edit,
  inverseOf,
  type Patch,
  Refusal,
  SceneDocument,
  type Shelf,
  Shoot,
} from '@iron-hush/core/model'
import { useGear } from './gear'
import { useHistory } from './history'
import { newId } from './new-id'
import { useNotices } from './notices'
import { useOutbox } from './outbox'
import { ask, Refused } from './server'

interface EditsParcel {
  /** Id of the change, the same at every try. */
  change: string
  edits: Edit[]
}

/** Two versions of the scene, of which one must be chosen. */
interface Conflict {
  theirs: SceneDocument
  mine: Edit[]
}

/** While a control is being turned, this long after its last movement the change is sent. */
const settleMs = 350

/** The scene in hand: its document, its levels, and every change of it. */
export const useScene = defineStore('scene', () => {
  const gear = useGear()
  const outbox = useOutbox()
  const history = useHistory()
  const notices = useNotices()
  const router = useRouter()
  const shoots = ref<Shoot[]>([])
  const document = shallowRef<SceneDocument>()
  const conflict = shallowRef<Conflict>()
  const runId = ref('')
  /** Revisions the server has, by scene. */
  const revisions = new Map<string, number>()
  let unsent: Edit[] = []
  let timer: ReturnType<typeof setTimeout> | undefined

  const patch = computed(() => document.value?.patch)
  const problems = computed(() => (patch.value ? checkPatch(patch.value, gear.shelf) : []))
  const compute = levelsAgain()
  const levels = computed<Levels | undefined>(() =>
    patch.value && problems.value.length === 0 ? compute(patch.value, gear.shelf) : undefined,
  )
  /** Circuits that were solved: turning a knob changes none of them. */
  const solved = new Map<string, LinkReport>()
  let wired: { patch: Patch; shelf: Shelf; wiring: WiredLink[] } | undefined
  const wiring = computed(() => {
    const [now, shelf] = [patch.value, gear.shelf]
    if (!now || problems.value.length > 0) return []
    if (wired?.shelf !== shelf || !sameCircuits(wired.patch, now, shelf))
      wired = {
        patch: now,
        shelf,
        wiring: wiringOf(now, shelf, (key, solve) => {
          const known = solved.get(key) ?? solve()
          solved.set(key, known)
          return known
        }),
      }
    return wired.wiring
  })
  /** The patch as Balance left it: until it changes, no finding sends anybody back there. */
  const balancedPatch = shallowRef<Patch>()
  const markBalanced = () => (balancedPatch.value = patch.value)
  const wiringFaults = computed(() => wiringFindings(wiring.value))
  /** Recordings first: they are what the plan is for. */
  const runs = computed(() =>
    [...(levels.value?.runs ?? [])].sort(
      (one, other) => Number(one.end.kind === 'listen') - Number(other.end.kind === 'listen'),
    ),
  )
  const findings = computed<Finding[]>(() =>
    levels.value && patch.value
      ? findingsOf(levels.value, {
          plan: patch.value.plan,
          wantedSpeechToNoiseDb: patch.value.brief.wantedSpeechToNoiseDb,
          balanced: balancedPatch.value === patch.value,
        })
      : [],
  )
  /** The run in hand: the one chosen, or else the one with the worst to say. */
  const run = computed(
    () =>
      runs.value.find(({ id }) => id === runId.value) ??
      runs.value.find(({ id }) => id === findings.value[0]?.run) ??
      runs.value[0],
  )
  const verdict = computed(() =>
    run.value && patch.value
      ? verdictOf(run.value, patch.value.plan, patch.value.brief.wantedSpeechToNoiseDb)
      : [],
  )

  async function loadShoots(): Promise<void> {
    shoots.value = await ask(z.array(Shoot), 'GET', '/api/shoots')
    outbox.carry('scene', { send, refused })
  }

  async function open(id: string): Promise<void> {
    flush()
    const loaded = await ask(SceneDocument, 'GET', `/api/scenes/${id}`)
    adopt(loaded)
    history.forget()
    // what waits for the server is part of what the person has done
    for (const parcel of outbox.waitingFor(`scene:${id}`)) tryLocally((parcel.content as EditsParcel).edits)
    runId.value = ''
  }

  function adopt(loaded: SceneDocument): void {
    revisions.set(loaded.id, loaded.revision)
    document.value = loaded
  }

  /** Applies edits to what is on the screen. False, with a notice, when they are refused. */
  function tryLocally(edits: readonly Edit[]): boolean {
    const now = document.value
    if (!now) return false
    try {
      document.value = { ...now, patch: applyEdits(now.patch, edits, gear.shelf) }
      return true
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      notices.say(error.message)
      return false
    }
  }

  /** Changes the scene, here at once and on the server in a moment. Edits of one movement share a `merge` key. */
  function change(edits: Edit[], name: string, merge?: string): boolean {
    const before = patch.value
    if (!before || edits.length === 0) return false
    const back = inverseOf(before, edits, gear.shelf)
    // a field that writes back what it was given is not a deed
    if (JSON.stringify(back) === JSON.stringify(edits)) return true
    // what is turned stays in sight, even when another run then has more to say
    if (edits.every(({ kind }) => kind === 'set control' || kind === 'lock control'))
      runId.value = run.value?.id ?? ''
    if (!perform(edits, merge !== undefined)) return false
    history.done({ name, merge, undo: () => perform(back), redo: () => perform(edits) })
    return true
  }

  function perform(edits: Edit[], turning = false): boolean {
    if (!tryLocally(edits)) return false
    unsent = [...unsent.filter((old) => !replaced(old, edits)), ...edits]
    clearTimeout(timer)
    if (turning) timer = setTimeout(flush, settleMs)
    else flush()
    return true
  }

  function flush(): void {
    clearTimeout(timer)
    if (unsent.length === 0 || !document.value) return
    const edits = unsent
    unsent = []
    outbox.post(`scene:${document.value.id}`, { change: newId(), edits } satisfies EditsParcel)
  }

  async function send(parcel: { place: string; content: unknown }): Promise<void> {
    const id = parcel.place.split(':')[1]!
    const { change: changeId, edits } = parcel.content as EditsParcel
    const baseRevision = revisions.get(id) ?? (await ask(SceneDocument, 'GET', `/api/scenes/${id}`)).revision
    const answer = await ask(SceneDocument, 'POST', `/api/scenes/${id}/edits`, {
      id: changeId,
      baseRevision,
      edits,
    })
    revisions.set(id, answer.revision)
    if (document.value?.id === id) document.value = { ...document.value, revision: answer.revision }
  }

  function refused(parcel: { place: string; content: unknown }, { status, problem }: Refused): void {
    const id = parcel.place.split(':')[1]!
    const { edits } = parcel.content as EditsParcel
    if (status === 409) {
      const theirs = SceneDocument.parse(problem.theirs)
      if (document.value?.id === id)
        conflict.value = { theirs, mine: [...(conflict.value?.mine ?? []), ...edits] }
    } else {
      notices.say(problem.detail)
      if (document.value?.id === id) void open(id)
    }
  }

  /** Their version, and our changes put on top of it. What no longer fits is named. */
  function keepMine(): void {
    const open = conflict.value
    if (!open) return
    conflict.value = undefined
    adopt(open.theirs)
    for (const edit of open.mine) perform([edit])
  }

  /** Their version; ours can be had back by undo. */
  function keepTheirs(): void {
    const open = conflict.value
    if (!open) return
    conflict.value = undefined
    adopt(open.theirs)
    const mine = open.mine
    const back = (): Edit[] => (patch.value ? inverseOf(patch.value, mine, gear.shelf) : [])
    let undoing: Edit[] = []
    history.done({
      name: 'taking the other version',
      undo: () => {
        undoing = back()
        perform(mine)
      },
      redo: () => perform(undoing),
    })
  }

  /** Looks whether another tab moved on, when nothing of ours is under way. */
  async function refresh(): Promise<void> {
    const now = document.value
    if (!now || unsent.length || conflict.value || outbox.waitingFor(`scene:${now.id}`).length) return
    const latest = await ask(SceneDocument, 'GET', `/api/scenes/${now.id}`).catch(() => undefined)
    if (latest && document.value === now && latest.revision > now.revision) adopt(latest)
  }

  function stepRun(by: number): void {
    const index = runs.value.findIndex(({ id }) => id === run.value?.id)
    runId.value = runs.value[(index + by + runs.value.length) % runs.value.length]?.id ?? ''
  }

  async function goTo(id: string): Promise<void> {
    const route = router.currentRoute.value
    await router.push({ name: route.name ?? 'levels', params: { ...route.params, scene: id } })
  }

  return {
    shoots,
    document,
    patch,
    problems,
    levels,
    runs,
    run,
    runId,
    findings,
    wiring,
    wiringFaults,
    verdict,
    markBalanced,
    conflict,
    loadShoots,
    open,
    change,
    flush,
    keepMine,
    keepTheirs,
    refresh,
    stepRun,
    goTo,
  }
})

/** Whether a later edit makes an earlier, unsent one pointless. */
function replaced(old: Edit, edits: readonly Edit[]): boolean {
  return edits.some(
    (edit) =>
      old.kind === 'set control' &&
      edit.kind === 'set control' &&
      old.part === edit.part &&
      old.control === edit.control,
  )
}
