import { createHash } from 'node:crypto'
import { z } from 'zod'
import type { SceneChange, SceneDocument } from '@iron-hush/core/contract'
import { applyEdits, Edit, replayed, settledEdits } from '@iron-hush/core/edits'
import { parse, Patch, rolesIn } from '@iron-hush/core/model'
import type { Database } from '../database'
import { conflict, HttpProblem, notFound } from '../problem'
import { shelfFor } from './gear'
import { inOrder } from './put-document'
import { RecentPatches } from './recent-patches'

/** Revisions between snapshots of a patch; only edits are stored in between. */
export const snapshotEvery = 25

interface SceneRow {
  id: string
  shoot_id: string
  name: string
  revision: number
}

export class SceneStore {
  private readonly recent = new RecentPatches()

  /** @param keptRevisions so many of the latest can be had again; what is older goes when a snapshot is taken */
  constructor(private readonly keptRevisions = 1000) {}

  async read(db: Database, id: string): Promise<SceneDocument> {
    const row = await rowOf(db, id)
    if (!row) throw notFound('This scene')
    return {
      id,
      shoot: row.shoot_id,
      revision: row.revision,
      patch: await this.patchAt(db, id, row.revision),
    }
  }

  /** Stores edits, whole or not at all. The same id sent again changes nothing and gets the same answer. */
  async change(db: Database, id: string, request: SceneChange): Promise<{ revision: number }> {
    const { revision, patch } = await db
      .transaction()
      .execute((transaction) => this.changeIn(transaction, id, request))
    // only committed states may be cached
    if (patch) this.recent.put(id, revision, patch)
    return { revision }
  }

  private async changeIn(
    db: Database,
    id: string,
    request: SceneChange,
  ): Promise<{ revision: number; patch?: Patch }> {
    const row = await rowOf(db, id, true)
    if (!row) throw notFound('This scene')
    const before = await db
      .selectFrom('scene_edits')
      .select(['revision', 'digest'])
      .where('scene_id', '=', id)
      .where('change_id', '=', request.id)
      .executeTakeFirst()
    const digest = digestOf(request.edits)
    if (before?.digest && before.digest !== digest) throw anotherUnderThisId()
    if (before) return { revision: before.revision }
    if (row.revision !== request.baseRevision) throw await this.conflictOf(db, row, request)
    const now = await this.patchAt(db, id, row.revision)
    const shelf = await shelfFor(db, now, request.edits)
    const patch = parse(Patch, applyEdits(now, request.edits, shelf), 'The changed scene')
    const revision = row.revision + 1
    const edits = JSON.stringify(settledEdits(now, request.edits, shelf))
    await db
      .insertInto('scene_edits')
      .values({ scene_id: id, revision, change_id: request.id, digest, edits })
      .execute()
    await db
      .updateTable('scenes')
      .set({ revision, name: patch.name, changed_at: new Date() })
      .where('id', '=', id)
      .execute()
    await writeParts(db, id, patch, now)
    if (revision % snapshotEvery === 0) {
      await takeSnapshot(db, id, revision, patch)
      await dropOlder(db, id, revision - this.keptRevisions)
    }
    return { revision, patch }
  }

  private async conflictOf(db: Database, row: SceneRow, { baseRevision, edits }: SceneChange) {
    const { id, shoot_id: shoot, revision } = row
    const theirs = { id, shoot, revision, patch: await this.patchAt(db, id, revision) }
    const base = await this.patchAt(db, id, baseRevision).catch(() => undefined)
    const yours = base ? applyEdits(base, edits, await shelfFor(db, base, edits)) : null
    return conflict('This scene', theirs, yours)
  }

  /** The patch as it was at a revision: the snapshot before it, and the edits since. */
  private async patchAt(db: Database, scene: string, revision: number): Promise<Patch> {
    const known = this.recent.get(scene, revision)
    if (known) return known
    const snapshot = await db
      .selectFrom('scene_snapshots')
      .select(['revision', 'patch'])
      .where('scene_id', '=', scene)
      .where('revision', '<=', revision)
      .orderBy('revision', 'desc')
      .executeTakeFirst()
    if (!snapshot) throw notFound('This version of the scene')
    const since = await db
      .selectFrom('scene_edits')
      .select('edits')
      .where('scene_id', '=', scene)
      .where('revision', '>', snapshot.revision)
      .where('revision', '<=', revision)
      .orderBy('revision')
      .execute()
    if (since.length !== revision - snapshot.revision) throw notFound('This version of the scene')
    const base = parse(Patch, snapshot.patch, 'The stored scene')
    const edits = since.flatMap((row) => parse(z.array(Edit), row.edits, 'The stored change'))
    const patch = parse(Patch, replayed(base, edits), 'The stored scene')
    this.recent.put(scene, revision, patch)
    return patch
  }
}

/** Fingerprint of a request: the same for the same edits, in any order of their fields. */
const digestOf = (edits: readonly Edit[]): string =>
  createHash('sha256')
    .update(JSON.stringify(inOrder(edits)))
    .digest('base64url')

const anotherUnderThisId = () =>
  new HttpProblem(
    409,
    'Another change',
    'Another change of this scene was stored under the same id. This one was not stored; send it under an id of its own.',
  )

/** A scene that is new, with its first state. */
export async function insertScene(
  db: Database,
  scene: { id: string; shoot: string; position: number; patch: Patch },
): Promise<void> {
  const { id, shoot, position, patch } = scene
  await db
    .insertInto('scenes')
    .values({ id, shoot_id: shoot, position, name: patch.name, revision: 1 })
    .execute()
  await takeSnapshot(db, id, 1, patch)
  await writeParts(db, id, patch)
}

async function rowOf(db: Database, id: string, toChange = false): Promise<SceneRow | undefined> {
  const query = db.selectFrom('scenes').select(['id', 'shoot_id', 'name', 'revision']).where('id', '=', id)
  return (toChange ? query.forUpdate() : query).executeTakeFirst()
}

export async function takeSnapshot(
  db: Database,
  scene: string,
  revision: number,
  patch: Patch,
): Promise<void> {
  await db
    .insertInto('scene_snapshots')
    .values({ scene_id: scene, revision, patch: JSON.stringify(patch) })
    .execute()
}

/** Deletes history before a revision, except from the snapshot it needs. */
async function dropOlder(db: Database, scene: string, than: number): Promise<void> {
  const oldest = await db
    .selectFrom('scene_snapshots')
    .select('revision')
    .where('scene_id', '=', scene)
    .where('revision', '<=', than)
    .orderBy('revision', 'desc')
    .executeTakeFirst()
  if (!oldest) return
  await db
    .deleteFrom('scene_snapshots')
    .where('scene_id', '=', scene)
    .where('revision', '<', oldest.revision)
    .execute()
  await db
    .deleteFrom('scene_edits')
    .where('scene_id', '=', scene)
    .where('revision', '<=', oldest.revision)
    .execute()
}

/** Stores which shelf gear a scene uses, and as what, if that changed. */
async function writeParts(db: Database, scene: string, patch: Patch, before?: Patch): Promise<void> {
  const parts = rolesIn(patch)
  if (before && JSON.stringify(rolesIn(before)) === JSON.stringify(parts)) return
  await db.deleteFrom('scene_parts').where('scene_id', '=', scene).execute()
  if (parts.length)
    await db
      .insertInto('scene_parts')
      .values(
        parts.map(({ gear, role }, position) => ({ part: role, gear_id: gear, scene_id: scene, position })),
      )
      .execute()
}
