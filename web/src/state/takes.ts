import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { deleteTake, listTakes, putTake } from '@iron-hush/core/contract'
import { type MarkKind, Take } from '@iron-hush/core/model'
import { type DocumentKind, useDocuments } from '../sync/documents'
import { newId } from '../sync/new-id'
import type { Act } from './deed'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'
import { useScene } from './scene'

const takes: DocumentKind<Take> = {
  name: 'take',
  schema: Take,
  list: listTakes,
  put: putTake,
  drop: deleteTake,
  scopeOf: ({ scene }) => scene,
  order: (one, other) => one.number - other.number,
  /** Every mark of both is kept, and the rest as it stands here. */
  merge(mine, theirs) {
    useNotices().say(`Take ${mine.number} was changed in another window too; the marks of both are kept.`)
    const known = new Set(mine.marks.map(({ id }) => id))
    return { ...mine, marks: [...mine.marks, ...theirs.marks.filter(({ id }) => !known.has(id))] }
  },
}

/** The takes of the scene in hand, with their marks. */
export const useTakes = defineStore('takes', () => {
  const scene = useScene()
  const history = useHistory()
  const { list, load, acts } = useDocuments(takes)
  history.carry('take', acts)
  const rolling = computed(() => list.value.find(({ endedAt }) => endedAt === null))
  const sceneId = computed(() => scene.document?.id)
  watch(
    sceneId,
    (id) => {
      list.value = []
      if (id) void load(id).catch(() => undefined)
    },
    { immediate: true },
  )

  const putAct = (content: Take): Act => ({ do: 'put', kind: 'take', content })
  const perform = (name: string, redo: Act, undo: Act) =>
    history.perform(historyPlaces.takes(sceneId.value ?? ''), { name, redo: [redo], undo: [undo] })
  function start(): void {
    if (!sceneId.value || rolling.value) return
    const number = Math.max(0, ...list.value.map((take) => take.number)) + 1
    const take: Take = {
      id: newId(),
      scene: sceneId.value,
      number,
      startedAt: new Date().toISOString(),
      endedAt: null,
      verdict: 'open',
      note: '',
      marks: [],
    }
    perform(`starting take ${number}`, putAct(take), { do: 'drop', kind: 'take', id: take.id })
  }
  function change(take: Take, to: Partial<Take>, name: string): void {
    perform(name, putAct({ ...take, ...to }), putAct(take))
  }
  function end(): void {
    const take = rolling.value
    if (take) change(take, { endedAt: new Date().toISOString() }, `ending take ${take.number}`)
  }
  function mark(kind: MarkKind, channel: string, note = ''): void {
    const take = rolling.value
    if (!take) return
    const atS = Math.max(0, (Date.now() - Date.parse(take.startedAt)) / 1000)
    const marks = [...take.marks, { id: newId(), kind, atS, channel, note }]
    change(take, { marks }, `the mark ${kind}`)
  }

  return { list, rolling, start, end, mark, change }
})
