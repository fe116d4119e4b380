import { readdirSync, readFileSync } from 'node:fs'
import {
  addressOf,
  type AnswerOf,
  type BodyOf,
  deleteGear,
  deleteProof,
  deleteScene,
  deleteShoot,
  deleteTake,
  editScene,
  listGear,
  listProofs,
  listShoots,
  listTakes,
  putGear,
  readScene,
  type Request,
} from '@iron-hush/core/contract'
import { parseJson, Patch, ShelfFile, uuidv7 } from '@iron-hush/core/model'

const demo = new URL('../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const scenes = readdirSync(new URL('scenes', demo))
  .sort()
  .map((file) => parseJson(Patch, read(`scenes/${file}`), file))
const shelf = parseJson(ShelfFile, read('shelf.json'), 'shelf').gear

/** Puts everything back to how the demo has it, whatever other stories did to it. */
export async function asShipped(address: string): Promise<void> {
  async function ask<R extends Request>(
    request: R,
    { id, body, revision }: { id?: string; body?: BodyOf<R>; revision?: number } = {},
  ): Promise<AnswerOf<R>> {
    const behind = revision === undefined ? (request.paged ? '?limit=1000' : '') : `?revision=${revision}`
    const answer = await fetch(address + addressOf(request, id === undefined ? {} : { id }) + behind, {
      method: request.method.toUpperCase(),
      headers: { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
    if (!answer.ok) throw new Error(await answer.text())
    return request.answer.parse(await answer.json()) as AnswerOf<R>
  }
  const shoots = await ask(listShoots)
  for (const { id } of shoots.filter(({ demo: shipped }) => !shipped)) await ask(deleteShoot, { id })
  const all = shoots.filter(({ demo: shipped }) => shipped).flatMap((shoot) => shoot.scenes)
  for (const [index, { id }] of all.entries()) {
    const shipped = scenes[index]
    if (!shipped) {
      await ask(deleteScene, { id })
      continue
    }
    const { revision, patch } = await ask(readScene, { id })
    const { boxes, links, brief, plan, name, note } = shipped
    if (JSON.stringify(patch) !== JSON.stringify(shipped))
      await ask(editScene, {
        id,
        body: {
          id: uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
          baseRevision: revision,
          edits: [
            { kind: 'change brief', to: brief },
            { kind: 'set wiring', boxes, links },
            { kind: 'change plan', to: plan },
            { kind: 'rename', name },
            { kind: 'note', note },
            ...patch.lineUp.map((reading) => ({
              kind: 'keep reading' as const,
              id: reading.id,
              reading: null,
            })),
          ],
        },
      })
    for (const take of await ask(listTakes, { id }))
      await ask(deleteTake, { id: take.content.id, revision: take.revision })
    for (const proof of await ask(listProofs, { id }))
      await ask(deleteProof, { id: proof.content.id, revision: proof.revision })
  }
  for (const { revision, content } of await ask(listGear)) {
    const shipped = shelf.find(({ id }) => id === content.id)
    if (!shipped) await ask(deleteGear, { id: content.id, revision })
    else if (JSON.stringify(shipped) !== JSON.stringify(content))
      await ask(putGear, { id: content.id, body: { baseRevision: revision, content: shipped } })
  }
}
