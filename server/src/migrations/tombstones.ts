import { type Kysely, sql } from 'kysely'

/**
 * What is deleted leaves its row behind, so that a change that comes late does not bring it back, and so that it can be
 * put back. Changes of scenes remember what was asked. Lists are read in pages along an index.
 */
export async function tombstones(db: Kysely<unknown>): Promise<void> {
  await sql`
    alter table takes add column removed_at timestamptz;
    alter table proofs add column removed_at timestamptz;
    alter table gear add column removed_at timestamptz;
    alter table scene_edits add column digest text;
    drop index takes_of_scene;
    create index takes_of_scene on takes (scene_id, number, id) where removed_at is null;
    drop index proofs_of_scene;
    create index proofs_of_scene on proofs (scene_id, measured_at desc, id desc) where removed_at is null;
    create index gear_in_order on gear (kind, name, id) where removed_at is null;
  `.execute(db)
}
