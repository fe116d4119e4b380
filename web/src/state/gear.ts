import { until } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import {
  deleteGear,
  importGear,
  listGear,
  listGearUses,
  listSceneGear,
  putGear,
} from '@iron-hush/core/contract'
import { Gear, shelfOf } from '@iron-hush/core/model'
import { ask } from '../sync/ask'
import type { DocumentKind } from '../sync/document-kind'
import { type Documents, useDocuments } from '../sync/documents'
import { idle } from '../sync/idle'
import { plain } from '../sync/plain'
import type { Act, Deed } from './deed'
import { historyPlaces, useHistory } from './history'

/** Made once: a comparison of names that makes its own takes fifty times as long. */
const { compare } = new Intl.Collator()

const things: DocumentKind<Gear> = {
  name: 'gear',
  schema: Gear,
  list: listGear,
  put: putGear,
  drop: deleteGear,
  scopeOf: () => '',
  order: (one, other) => compare(one.kind, other.kind) || compare(one.name, other.name),
}

const putAct = (content: Gear): Act => ({ do: 'put', kind: 'gear', content: plain(content) })
const dropAct = ({ id }: Gear): Act => ({ do: 'drop', kind: 'gear', id })

/** The shelf. */
export const useGear = defineStore('gear', () => {
  const documents = useDocuments(things)
  const { list: all, isWhole, revisionOf, acts } = documents
  const history = useHistory()
  history.carry('gear', acts)
  const shelf = computed(() => shelfOf(all.value))
  const reading = useReading(documents)
  const of = (id: string) => shelf.value.get(id)

  const perform = (deed: Deed) => history.perform(historyPlaces.gear, deed)
  /** Changes a thing on the shelf; can be undone. */
  function change(gear: Gear, name: string, merge?: string): void {
    const before = of(gear.id)
    if (!before || JSON.stringify(before) === JSON.stringify(gear)) return
    perform({ name, merge, redo: [putAct(gear)], undo: [putAct(before)] })
  }

  /** Puts a new thing on the shelf; can be undone. */
  const add = (gear: Gear, name: string) => perform({ name, redo: [putAct(gear)], undo: [dropAct(gear)] })

  const usesOf = (id: string) => ask(listGearUses, { id })

  /** Takes a thing off the shelf; can be undone. What a scene uses the server keeps, with a sentence. */
  const remove = (gear: Gear) =>
    perform({ name: `deleting ${gear.name}`, redo: [dropAct(gear)], undo: [putAct(gear)] })

  /** Puts things from a file on the shelf, all together; can be undone. */
  async function take(gear: readonly Gear[]): Promise<void> {
    const before = gear.map(({ id }) => of(id))
    const changes = gear.map((content) => ({ baseRevision: revisionOf(content.id), content }))
    await ask(importGear, { body: { things: changes } })
    await reading.load()
    history.done(historyPlaces.gear, {
      name: 'importing a gear file',
      redo: gear.map(putAct),
      undo: gear.map((each, index) => (before[index] ? putAct(before[index]) : dropAct(each))),
    })
  }

  return { all, shelf, isWhole, of, ...reading, change, add, remove, take, usesOf }
})

/** How the shelf is read: at once, or first what a scene uses and the rest at leisure. */
function useReading({ load: loadScope, showSome, isWhole }: Documents<Gear>) {
  const load = () => loadScope('')
  /** How many wait for the whole shelf: while nobody does, it is read when there is nothing better to do. */
  let waiting = 0
  const atLeisure = () => (waiting ? Promise.resolve() : idle())
  const loadGently = () => atLeisure().then(() => loadScope('', atLeisure))
  /** Reads what a scene uses: enough to work with it while the rest of the shelf is read. */
  const loadOfScene = async (id: string) => showSome('', await ask(listSceneGear, { id }))
  /** For what asks something of the whole shelf; what shows it is drawn again by itself. */
  async function whenWhole(): Promise<void> {
    waiting++
    await until(isWhole).toBe(true)
    waiting--
  }
  /** Does something once the shelf is whole: at once, where it is. */
  const whole = (then: () => unknown) => void (isWhole.value ? then() : whenWhole().then(then))
  return { load, loadGently, loadOfScene, whenWhole, whole }
}
