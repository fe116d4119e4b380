import { type Kysely, sql } from 'kysely'

/**
 * Scenes are kept as edits with a snapshot now and then, where every state was a copy of the whole. Measurements get
 * revisions, as takes and gear have them.
 */
export async function edits(db: Kysely<unknown>): Promise<void> {
  await sql`
    create table scene_snapshots (
      scene_id uuid not null references scenes, revision integer not null, patch jsonb not null,
      made_at timestamptz not null default now(), primary key (scene_id, revision)
    );
    create table scene_edits (
      scene_id uuid not null references scenes, revision integer not null, change_id uuid not null,
      edits jsonb not null, made_at timestamptz not null default now(),
      primary key (scene_id, revision), unique (scene_id, change_id)
    );
    create table scene_parts (
      scene_id uuid not null references scenes, position integer not null, part text not null,
      gear_id text not null, primary key (scene_id, position)
    );
    create index scenes_of_gear on scene_parts (gear_id);

    insert into scene_edits (scene_id, revision, change_id, edits, made_at)
      select scene_id, revision, change_id, edits, made_at from scene_revisions where revision > 1;
    -- a swap means what the shelf of its day said: what it led to is kept as a state
    insert into scene_snapshots (scene_id, revision, patch, made_at)
      select scene_id, revision, patch, made_at from scene_revisions old
      where revision = 1 or revision % 25 = 0 or edits @> '[{"kind": "swap"}]'
        or revision = (select revision from scenes where scenes.id = old.scene_id);
    -- the state in the scene itself is the last word, whatever the history holds
    insert into scene_snapshots (scene_id, revision, patch)
      select id, revision, patch from scenes
      on conflict (scene_id, revision) do update set patch = excluded.patch;
    insert into scene_parts (scene_id, position, part, gear_id)
      select scene_id, row_number() over (partition by scene_id order by place) - 1, part, gear_id from (
        select scenes.id scene_id, place, coalesce(box->>'name', box->>'id') part, box->>'gear' gear_id, patch
          from scenes, jsonb_array_elements(patch->'boxes') with ordinality boxes(box, place)
        union all
        select scenes.id, 1000 + links.place * 100 + pieces.place, piece->>'id', piece->>'gear', patch
          from scenes, jsonb_array_elements(patch->'links') with ordinality links(link, place),
            jsonb_array_elements(coalesce(link->'through', '[]')) with ordinality pieces(piece, place)
      ) parts
      where not exists (
        select 1 from jsonb_array_elements(coalesce(patch->'gear', '[]')) own where own->>'id' = gear_id
      );

    drop table scene_revisions;
    alter table scenes drop column patch;
    alter table proofs add column revision integer not null default 1 check (revision > 0);
    alter table proofs alter column revision drop default;
  `.execute(db)
}
