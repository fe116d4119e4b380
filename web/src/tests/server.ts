import { readFileSync } from 'node:fs'
import {
  applyEdits,
  type EditsRequest,
  type Gear,
  parseJson,
  Patch,
  type ProofRecord,
  type SceneDocument,
  ShelfFile,
  shelfOf,
  type Take,
} from '@iron-hush/core/model'

const demo = `${import.meta.dirname}/../../../demo`
export const gear: Gear[] = parseJson(ShelfFile, readFileSync(`${demo}/shelf.json`, 'utf8'), 'shelf').gear
export const bench = parseJson(
  Patch,
  readFileSync(`${demo}/scenes/1-the-founder-at-the-bench.json`, 'utf8'),
  'bench',
)
export const sceneId = '01890000-0000-7000-8000-000000000001'
export const shootId = '01890000-0000-7000-8000-000000000002'

/** A server in memory with the manners of the real one: revisions, conflicts, idempotent changes; and it can be away. */
export class Server {
  scene: SceneDocument = { id: sceneId, shoot: shootId, revision: 1, patch: bench }
  takes = new Map<string, { revision: number; take: Take }>()
  proofs = new Map<string, ProofRecord>()
  shelf = new Map(gear.map((each) => [each.id, { revision: 1, gear: each }]))
  seen = new Map<string, SceneDocument>()
  away = false
  calls: string[] = []

  answer = async (address: string, init: { method?: string; body?: string } = {}): Promise<Response> => {
    if (this.away) throw new TypeError('no network')
    const { method = 'GET' } = init
    const body: unknown = init.body ? JSON.parse(init.body) : undefined
    this.calls.push(`${method} ${address}`)
    if (address === '/api/gear') return Response.json([...this.shelf.values()])
    if (address === '/api/shoots')
      return Response.json([
        { id: shootId, name: 'foundry', scenes: [{ id: sceneId, name: bench.name, revision: 1 }] },
      ])
    if (address === `/api/scenes/${sceneId}`) return Response.json(this.scene)
    if (address.endsWith('/takes')) return Response.json([...this.takes.values()])
    if (address.endsWith('/proofs')) return Response.json([...this.proofs.values()])
    if (address.endsWith('/edits')) return this.edit(body as EditsRequest)
    if (address.startsWith('/api/takes/')) return this.put(body as { baseRevision: number; take: Take })
    if (address === '/api/gear/import') return this.takeIn((body as { gear: Gear[] }).gear)
    if (address.endsWith('/uses')) return Response.json(this.usesOf(address.split('/').at(-2)!))
    if (address.startsWith('/api/gear/') && method === 'DELETE') return this.drop(address.split('/').at(-1)!)
    if (address.startsWith('/api/gear/')) return this.own(body as { baseRevision: number; gear: Gear })
    if (address.startsWith('/api/proofs/')) return this.keep(method, address, body as ProofRecord)
    return this.problem(404, 'not there')
  }
  edit(request: EditsRequest): Response {
    const before = this.seen.get(request.id)
    if (before) return Response.json(before)
    if (request.baseRevision !== this.scene.revision)
      return this.problem(409, 'changed elsewhere', { theirs: this.scene })
    this.scene = {
      ...this.scene,
      revision: this.scene.revision + 1,
      patch: applyEdits(this.scene.patch, request.edits, shelfOf(gear)),
    }
    this.seen.set(request.id, this.scene)
    return Response.json(this.scene)
  }
  put({ baseRevision, take }: { baseRevision: number; take: Take }): Response {
    const now = this.takes.get(take.id)
    if ((now?.revision ?? 0) !== baseRevision) return this.problem(409, 'changed elsewhere', { theirs: now })
    this.takes.set(take.id, { revision: baseRevision + 1, take })
    return Response.json(this.takes.get(take.id))
  }
  own({ baseRevision, gear: thing }: { baseRevision: number; gear: Gear }): Response {
    if ((this.shelf.get(thing.id)?.revision ?? 0) !== baseRevision)
      return this.problem(409, 'changed elsewhere')
    this.shelf.set(thing.id, { revision: baseRevision + 1, gear: thing })
    return Response.json(this.shelf.get(thing.id))
  }
  usesOf(id: string) {
    const { boxes, links } = this.scene.patch
    const as = [...boxes, ...links.flatMap(({ through }) => through)]
      .filter((part) => part.gear === id)
      .map((part) => ('name' in part && part.name) || part.id)
    return as.length ? [{ id: sceneId, scene: this.scene.patch.name, as }] : []
  }
  drop(id: string): Response {
    if (this.usesOf(id).length) return this.problem(422, `It is used in ${this.scene.patch.name}.`)
    this.shelf.delete(id)
    return Response.json({ id })
  }
  takeIn(things: Gear[]): Response {
    for (const thing of things)
      this.shelf.set(thing.id, { revision: (this.shelf.get(thing.id)?.revision ?? 0) + 1, gear: thing })
    return Response.json(things.map(({ id }) => this.shelf.get(id)))
  }
  keep(method: string, address: string, proof: ProofRecord): Response {
    const id = address.split('/').at(-1)!
    if (method === 'DELETE') return Response.json({ gone: this.proofs.delete(id) })
    this.proofs.set(id, proof)
    return Response.json(proof)
  }
  problem(status: number, detail: string, more: object = {}): Response {
    return Response.json({ type: 'about:blank', title: detail, status, detail, ...more }, { status })
  }
  /** Another window changes the scene. */
  elsewhere(position: number): void {
    this.scene = {
      ...this.scene,
      revision: this.scene.revision + 1,
      patch: applyEdits(
        this.scene.patch,
        [{ kind: 'set control', part: 'recorder', control: 'gain-2', position }],
        shelfOf(gear),
      ),
    }
  }
}
