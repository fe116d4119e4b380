import { defineStore } from 'pinia'
import { computed } from 'vue'
import { deleteGear, importGear, listGear, listGearUses, putGear } from '@iron-hush/core/contract'
import { Gear, shelfOf } from '@iron-hush/core/model'
import { ask } from '../sync/ask'
import { type DocumentKind, useDocuments } from '../sync/documents'
import { useHistory } from './history'

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

/** The shelf. */
export const useGear = defineStore('gear', () => {
  const { list: all, load: loadScope, put, drop } = useDocuments(things)
  const history = useHistory()
  const shelf = computed(() => shelfOf(all.value))
  const load = () => loadScope('')
  const of = (id: string) => shelf.value.get(id)

  /** Changes a thing on the shelf; can be undone. */
  function change(gear: Gear, name: string, merge?: string): void {
    const before = of(gear.id)
    if (!before || JSON.stringify(before) === JSON.stringify(gear)) return
    history.perform({ name, merge, redo: () => put(gear), undo: () => put(before) })
  }

  /** Puts a new thing on the shelf; can be undone. */
  const add = (gear: Gear, name: string) =>
    history.perform({ name, redo: () => put(gear), undo: () => drop(gear.id) })

  const usesOf = (id: string) => ask(listGearUses, { id })

  /** Takes a thing off the shelf; can be undone. What a scene uses the server keeps, with a sentence. */
  const remove = (gear: Gear) =>
    history.perform({
      name: `deleting ${gear.name}`,
      redo: () => drop(gear.id),
      undo: () => put(gear),
    })

  /** Puts things from a file on the shelf, all together; can be undone. */
  async function take(gear: readonly Gear[]): Promise<void> {
    const before = gear.map(({ id }) => of(id))
    await ask(importGear, { body: { gear: [...gear] } })
    await load()
    history.done({
      name: 'taking in a gear file',
      redo: () => gear.forEach(put),
      undo: () => gear.forEach(({ id }, index) => (before[index] ? put(before[index]) : drop(id))),
    })
  }

  return { all, shelf, of, load, change, add, remove, take, usesOf }
})
