import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { z } from 'zod'
import { type MarkKind, Take } from '@iron-hush/core/model'
import { useHistory } from './history'
import { newId } from './new-id'
import { useNotices } from './notices'
import { useOutbox } from './outbox'
import { useScene } from './scene'
import { ask } from './server'

const StoredTake = z.object({ revision: z.number(), take: Take })
type TakeParcel = { take: Take } | { gone: string }

/** The takes of the scene in hand, with their marks. */
export const useTakes = defineStore('takes', () => {
  const scene = useScene()
  const outbox = useOutbox()
  const history = useHistory()
  const list = ref<Take[]>([])
  const revisions = new Map<string, number>()
  const rolling = computed(() => list.value.find(({ endedAt }) => endedAt === null))
  const sceneId = computed(() => scene.document?.id)

  async function load(id: string): Promise<void> {
    const stored = await ask(z.array(StoredTake), 'GET', `/api/scenes/${id}/takes`).catch(() => [])
    if (sceneId.value !== id) return
    for (const { revision, take } of stored) revisions.set(take.id, revision)
    let takes = stored.map(({ take }) => take)
    for (const parcel of outbox.waitingFor(`take:${id}`)) takes = after(takes, parcel.content as TakeParcel)
    list.value = takes
    outbox.carry('take', {
      async send({ content }) {
        const parcel = content as TakeParcel
        if ('gone' in parcel) {
          await ask(z.object({ gone: z.boolean() }), 'DELETE', `/api/takes/${parcel.gone}`)
          revisions.delete(parcel.gone)
        } else {
          const { take } = parcel
          const answer = await ask(StoredTake, 'PUT', `/api/takes/${take.id}`, {
            baseRevision: revisions.get(take.id) ?? 0,
            take,
          })
          revisions.set(take.id, answer.revision)
        }
      },
      refused({ content }, { status, problem }) {
        if (status === 409 && 'take' in (content as TakeParcel))
          merge((content as { take: Take }).take, problem.theirs)
        else useNotices().say(problem.detail)
      },
    })
  }
  watch(
    sceneId,
    (id) => {
      list.value = []
      if (id) void load(id)
    },
    { immediate: true },
  )

  /** Somebody else changed this take: every mark of both is kept, and the rest as it stands here. */
  function merge(mine: Take, answer: unknown): void {
    const theirs = StoredTake.safeParse(answer)
    if (!theirs.success) return
    revisions.set(mine.id, theirs.data.revision)
    const known = new Set(mine.marks.map(({ id }) => id))
    store({ ...mine, marks: [...mine.marks, ...theirs.data.take.marks.filter(({ id }) => !known.has(id))] })
    useNotices().say(`Take ${mine.number} was changed in another window too; the marks of both are kept.`)
  }

  function post(parcel: TakeParcel): void {
    list.value = after(list.value, parcel)
    outbox.post(`take:${sceneId.value}`, parcel)
  }
  const store = (take: Take) => post({ take })

  function does(name: string, before: Take | undefined, now: Take): void {
    history.done({
      name,
      undo: () => (before ? store(before) : post({ gone: now.id })),
      redo: () => store(now),
    })
    store(now)
  }

  function start(): void {
    if (!sceneId.value || rolling.value) return
    const number = Math.max(0, ...list.value.map((take) => take.number)) + 1
    does(`starting take ${number}`, undefined, {
      id: newId(),
      scene: sceneId.value,
      number,
      startedAt: new Date().toISOString(),
      endedAt: null,
      verdict: 'open',
      note: '',
      marks: [],
    })
  }
  function end(): void {
    const take = rolling.value
    if (take) does(`ending take ${take.number}`, take, { ...take, endedAt: new Date().toISOString() })
  }
  function mark(kind: MarkKind, channel: string, note = ''): void {
    const take = rolling.value
    if (!take) return
    const atS = Math.max(0, (Date.now() - Date.parse(take.startedAt)) / 1000)
    does(`the mark ${kind}`, take, {
      ...take,
      marks: [...take.marks, { id: newId(), kind, atS, channel, note }],
    })
  }
  function change(take: Take, to: Partial<Take>, name: string): void {
    does(name, take, { ...take, ...to })
  }

  return { list, rolling, start, end, mark, change }
})

function after(takes: readonly Take[], parcel: TakeParcel): Take[] {
  if ('gone' in parcel) return takes.filter(({ id }) => id !== parcel.gone)
  const others = takes.filter(({ id }) => id !== parcel.take.id)
  return [...others, parcel.take].sort((one, other) => one.number - other.number)
}
