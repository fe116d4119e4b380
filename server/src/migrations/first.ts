import { type Kysely, sql } from 'kysely'

/** Shoots with their scenes and every state those have had; the shelf; takes and marks; what was measured. */
export async function first(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table shoots (
      id uuid primary key, name text not null, made_at timestamptz not null default now()
    );
    create table scenes (
      id uuid primary key, shoot_id uuid not null references shoots, position integer not null, name text not null,
      revision integer not null check (revision > 0), patch jsonb not null, changed_at timestamptz not null default now()
    );
    create index scenes_of_shoot on scenes (shoot_id, position);
    create table scene_revisions (
      scene_id uuid not null references scenes, revision integer not null, change_id uuid not null,
      edits jsonb not null, patch jsonb not null, made_at timestamptz not null default now(),
      primary key (scene_id, revision), unique (scene_id, change_id)
    );
    create table gear (
      id text primary key, name text not null, maker text not null, kind text not null,
      owned integer not null check (owned >= 0), revision integer not null check (revision > 0), document jsonb not null
    );
    create table takes (
      id uuid primary key, scene_id uuid not null references scenes, number integer not null check (number > 0),
      started_at timestamptz not null, ended_at timestamptz, verdict text not null, note text not null,
      revision integer not null check (revision > 0)
    );
    create index takes_of_scene on takes (scene_id, number);
    create table marks (
      id uuid primary key, take_id uuid not null references takes on delete cascade, kind text not null,
      at_s double precision not null check (at_s >= 0), channel text not null, note text not null
    );
    create index marks_of_take on marks (take_id, at_s);
    create table proofs (
      id uuid primary key, scene_id uuid not null references scenes, clip text not null, recording text not null,
      measured_at timestamptz not null, measurement jsonb not null
    );
    create index proofs_of_scene on proofs (scene_id, measured_at);
  `.execute(db)
}
