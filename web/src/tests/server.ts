import {
  addressOf,
  type AnswerOf,
  deleteGear,
  deleteProof,
  deleteTake,
  editScene,
  type GearUse,
  importGear,
  listGear,
  listGearUses,
  listSceneGear,
  listProofs,
  listShoots,
  listTakes,
  putGear,
  putProof,
  putTake,
  readScene,
  type Request,
  type SceneChange,
  type SceneDocument,
  type Stored,
} from '@iron-hush/core/contract'
import { applyEdits } from '@iron-hush/core/edits'
import { type ProofRecord, rolesIn, shelfOf, type Take, usedOf } from '@iron-hush/core/model'
import type { z } from 'zod'
import { bench, gear } from './demo'

export { bench, gear }
export const sceneId = '01890000-0000-7000-8000-000000000001'
export const shootId = '01890000-0000-7000-8000-000000000002'

class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly more: object = {},
  ) {
    super(detail)
  }
}

const pathOf = (address: string) => address.replace(/\?.*/, '')

/** The contract fulfilled in memory: revisions, conflicts, idempotent changes; and it can be away. */
export class Server {
  scene: SceneDocument = { id: sceneId, shoot: shootId, revision: 1, patch: bench }
  takes = new Map<string, Stored<Take>>()
  proofs = new Map<string, Stored<ProofRecord>>()
  shelf = new Map(gear.map((each) => [each.id, { revision: 1, content: each }]))
  /** Revisions of what was deleted. */
  removed = new Map<string, number>()
  seen = new Map<string, { revision: number }>()
  away = false
  calls: string[] = []

  private readonly routes = [
    this.route(listShoots, () => [
      {
        id: shootId,
        revision: 1,
        name: 'foundry',
        date: null,
        place: '',
        demo: true,
        scenes: [{ id: sceneId, name: this.scene.patch.name, revision: this.scene.revision }],
      },
    ]),
    this.route(readScene, () => this.scene),
    this.route(editScene, (_, body) => this.edit(body)),
    this.route(listTakes, () => [...this.takes.values()]),
    this.route(putTake, (_, body) => {
      const { content: take } = body
      const inTheWay = [...this.takes.values()].find(
        ({ content: other }) =>
          other.id !== take.id &&
          !this.takes.has(take.id) &&
          (other.number === take.number || (!other.endedAt && !take.endedAt)),
      )
      if (inTheWay) throw new Problem(409, 'changed elsewhere', { theirs: inTheWay })
      return this.put(this.takes, body)
    }),
    this.route(deleteTake, (id) => this.remove(this.takes, id)),
    this.route(listProofs, () => [...this.proofs.values()]),
    this.route(putProof, (_, body) => this.put(this.proofs, body)),
    this.route(deleteProof, (id) => this.remove(this.proofs, id)),
    this.route(listGear, () => [...this.shelf.values()]),
    this.route(listSceneGear, () => {
      const used = usedOf(this.scene.patch, this.things())
      return [...this.shelf.values()].filter(({ content }) => used.has(content.id))
    }),
    this.route(importGear, (_, { things }) => things.map((change) => this.put(this.shelf, change))),
    this.route(putGear, (_, body) => this.put(this.shelf, body)),
    this.route(listGearUses, (id) => this.usesOf(id)),
    this.route(deleteGear, (id) => {
      if (this.usesOf(id).length) throw new Problem(422, `It is used in ${this.scene.patch.name}.`)
      return this.remove(this.shelf, id)
    }),
  ]

  answer = (address: string, init: { method?: string; body?: string } = {}): Promise<Response> => {
    if (this.away) return Promise.reject(new TypeError('no network'))
    const { method = 'GET' } = init
    this.calls.push(`${method} ${address}`)
    try {
      const route = this.routes.find((each) => each.fits(method, address))
      if (!route) throw new Problem(404, 'not there')
      return Promise.resolve(Response.json(route.answer(address, init.body && JSON.parse(init.body))))
    } catch (error) {
      if (!(error instanceof Problem)) return Promise.reject(error)
      const { status, message: detail, more } = error
      const body = { type: 'about:blank', title: detail, status, detail, ...more }
      return Promise.resolve(Response.json(body, { status }))
    }
  }

  /** Bodies and answers go through the contract, so that a page that departs from it fails here too. */
  private route<R extends Request>(
    request: R,
    act: (id: string, body: R['body'] extends z.ZodType ? z.output<R['body']> : undefined) => AnswerOf<R>,
  ) {
    const pattern = new RegExp(
      `^${addressOf(request, { id: '([^/]+)' }).replace(/%\w\w/g, decodeURIComponent)}$`,
    )
    return {
      fits: (method: string, address: string) =>
        method.toLowerCase() === request.method && pattern.test(pathOf(address)),
      answer: (address: string, body: unknown): unknown =>
        request.answer.parse(
          act(
            decodeURIComponent(pattern.exec(pathOf(address))?.[1] ?? ''),
            request.body?.parse(body) as never,
          ),
        ),
    }
  }

  private edit({ id, baseRevision, edits }: SceneChange): { revision: number } {
    const before = this.seen.get(id)
    if (before) return before
    if (baseRevision !== this.scene.revision)
      throw new Problem(409, 'changed elsewhere', { theirs: this.scene })
    const revision = baseRevision + 1
    this.scene = { ...this.scene, revision, patch: applyEdits(this.scene.patch, edits, this.things()) }
    this.seen.set(id, { revision })
    return { revision }
  }

  private put<T extends { id: string }>(
    all: Map<string, Stored<T>>,
    { baseRevision, content }: { baseRevision: number; content: T },
  ): { revision: number } {
    const now = all.get(content.id)
    if ((now?.revision ?? this.removed.get(content.id) ?? 0) !== baseRevision)
      throw new Problem(409, 'changed elsewhere', { theirs: now })
    const revision = baseRevision + 1
    all.set(content.id, { revision, content })
    return { revision }
  }

  private remove<T>(all: Map<string, Stored<T>>, id: string): { gone: boolean; revision: number } {
    const now = all.get(id)
    if (!now) return { gone: false, revision: this.removed.get(id) ?? 0 }
    all.delete(id)
    this.removed.set(id, now.revision + 1)
    return { gone: true, revision: now.revision + 1 }
  }

  private usesOf(id: string): GearUse[] {
    const as = rolesIn(this.scene.patch).flatMap((each) => (each.gear === id ? [each.role] : []))
    return as.length ? [{ id: sceneId, scene: this.scene.patch.name, as }] : []
  }

  private things = () => shelfOf([...this.shelf.values()].map(({ content }) => content))

  /** Another window changes the scene. */
  elsewhere(position: number): void {
    const edit = { kind: 'set control' as const, part: 'recorder', control: 'gain-2', position }
    const patch = applyEdits(this.scene.patch, [edit], this.things())
    this.scene = { ...this.scene, revision: this.scene.revision + 1, patch }
  }
}
