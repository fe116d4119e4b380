import {
  listGear,
  listProofs,
  listTakes,
  readLineage,
  readScene,
  SceneDocument,
  type Stored,
} from '@iron-hush/core/contract'
import type { Edit } from '@iron-hush/core/edits'
import { type Patch, Uuid } from '@iron-hush/core/model'
import { ask, askAll, Refused } from './ask'
import { newId } from './new-id'
import { useOutbox } from './outbox'
import type { Errand } from './parcel'
import { useSetAside } from './set-aside'
import type { Replica } from './storage'

const place = 'iron-hush.lineage'

/**
 * Looks whether the server goes on from where this device knows it. Where a backup was restored it does not: what this
 * device has and the server has otherwise is set aside for the person, before it is forgotten. Call it before anything is
 * loaded.
 */
export async function meetRestored(): Promise<void> {
  const now = await ask(readLineage).catch(() => undefined)
  if (!now) return
  const known = Uuid.safeParse(localStorage.getItem(place)).data
  if (known && known !== now.id) await offerKept().catch(() => undefined)
  localStorage.setItem(place, now.id)
}

async function offerKept(): Promise<void> {
  const { storage } = useOutbox()
  const kept = (await storage.everything()).filter(({ content }) => content !== null)
  for (const scene of kept.filter(({ kind }) => kind === 'scene')) await offerScene(scene)
  for (const [kind, list] of [
    ['take', listTakes],
    ['proof', listProofs],
    ['gear', listGear],
  ] as const) {
    const own = kept.filter((each) => each.kind === kind)
    for (const scope of new Set(own.map((each) => each.scope))) {
      const there = (await askAll(list, scope ? { id: scope } : {}).catch(() => [])) as Stored<{
        id: string
      }>[]
      const now = new Map(there.map(({ content }) => [content.id, JSON.stringify(content)]))
      for (const { id, content } of own.filter((each) => each.scope === scope))
        if (now.get(id) !== JSON.stringify(content)) offer(`${kind}:${id}`, { do: 'put', content })
    }
  }
}

async function offerScene({ id, content }: Replica): Promise<void> {
  const read = SceneDocument.safeParse(content)
  if (!read.success) return
  const now = await ask(readScene, { id }).catch((error: unknown) =>
    error instanceof Refused ? null : undefined,
  )
  // not to be had just now
  if (now === undefined) return
  const { patch } = read.data
  if (now && JSON.stringify(now.patch) === JSON.stringify(patch)) return
  offer(`scene:${id}`, { do: 'edit', change: newId(), edits: wholePatch(patch) })
}

/** Everything that edits can say of a patch. */
const wholePatch = ({ boxes, links, brief, plan, name, note }: Patch): Edit[] => [
  { kind: 'change brief', to: brief },
  { kind: 'set wiring', boxes, links },
  { kind: 'change plan', to: plan },
  { kind: 'rename', name },
  { kind: 'note', note },
]

function offer(to: string, errand: Errand): void {
  const parcel = { id: newId(), tab: '', place: to, order: Date.now(), errand }
  useSetAside().add(
    parcel,
    'The server was restored from a backup. This device has another version of it, which was newer or was not in the backup.',
    'restored',
  )
}
