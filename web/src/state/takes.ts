import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { deleteTake, listTakes, putTake } from '@iron-hush/core/contract'
import { type MarkKind, Take } from '@iron-hush/core/model'
import type { DocumentKind } from '../sync/document-kind'
import { useDocuments } from '../sync/documents'
import { newId } from '../sync/new-id'
import type { Act } from './deed'
import { historyPlaces, useHistory } from './history'
import { useNotices } from './notices'
import { useScene } from './scene'
import { useTakeParts } from './take-parts'

const takes: DocumentKind<Take> = {
  name: 'take',
  schema: Take,
  list: listTakes,
  put: putTake,
  drop: deleteTake,
  scopeOf: ({ scene }) => scene,
  order: (one, other) => one.number - other.number,
  /** Every mark of both is kept, and the rest as it is here; what was said or ended there alone stays said and ended. */
  merge(mine, theirs) {
    useNotices().say(`Take ${mine.number} was changed in another window too; the marks of both are kept.`)
    const known = new Set(mine.marks.map(({ id }) => id))
    return {
      ...mine,
      endedAt: mine.endedAt ?? theirs.endedAt,
      verdict: mine.verdict === 'open' ? theirs.verdict : mine.verdict,
      note: mine.note || theirs.note,
      marks: [...mine.marks, ...theirs.marks.filter(({ id }) => !known.has(id))],
    }
  },
  /** One take rolls at a time: marks go to the one that was first. What is over is kept under the next free number. */
  giveWay(mine, theirs, taken) {
    if (mine.endedAt !== null || theirs.endedAt !== null) {
      const number = nextNumber(taken)
      useNotices().say(`There was a take ${mine.number} already; this one is now take ${number}.`)
      return { ...mine, number }
    }
    useNotices().say(`Take ${theirs.number} is already rolling, started in another window; marks go to it.`)
    const laterS = (Date.parse(mine.startedAt) - Date.parse(theirs.startedAt)) / 1000
    const known = new Set(theirs.marks.map(({ id }) => id))
    const marks = mine.marks
      .filter(({ id }) => !known.has(id))
      .map((mark) => ({ ...mark, atS: Math.max(0, mark.atS + laterS) }))
    return { ...theirs, marks: [...theirs.marks, ...marks] }
  },
}
const nextNumber = (all: readonly Take[]) => Math.max(0, ...all.map(({ number }) => number)) + 1

/** The takes of the open scene, with their marks. */
export const useTakes = defineStore('takes', () => {
  const scene = useScene()
  const history = useHistory()
  const { list, load, acts } = useDocuments(takes)
  const { parts } = useTakeParts()
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
    const number = nextNumber(list.value)
    const take: Take = {
      id: newId(),
      scene: sceneId.value,
      number,
      startedAt: new Date().toISOString(),
      endedAt: null,
      verdict: 'open',
      note: '',
      marks: [],
      parts: parts(),
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
  /** Marks a moment of the take that rolls; left out, this one. */
  function mark(kind: MarkKind, channel: string, note = '', at = new Date()): void {
    const take = rolling.value
    if (!take) return
    const atS = Math.max(0, (at.getTime() - Date.parse(take.startedAt)) / 1000)
    const marks = [...take.marks, { id: newId(), kind, atS, channel, note }]
    change(take, { marks }, `the mark ${kind}`)
  }
  const remove = (take: Take) =>
    perform(`deleting take ${take.number}`, { do: 'drop', kind: 'take', id: take.id }, putAct(take))
  /** Why a take cannot have this number; nothing where it can. */
  const numberTaken = (take: Take, number: number) =>
    list.value.some((each) => each.id !== take.id && each.number === number)
      ? `There is a take ${number} already.`
      : undefined
  return { list, rolling, start, end, mark, change, remove, numberTaken }
})
