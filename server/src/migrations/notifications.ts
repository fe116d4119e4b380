import { type Kysely, sql } from 'kysely'

/** Every change is announced to all servers of the database, when it is stored for good. */
export async function notifications(db: Kysely<unknown>): Promise<void> {
  await sql`
    create function tell_change() returns trigger language plpgsql as $$
    declare kept jsonb := to_jsonb(coalesce(new, old));
    begin
      perform pg_notify('iron_hush', jsonb_strip_nulls(jsonb_build_object(
        'kind', tg_argv[0], 'id', kept->'id', 'scene', kept->'scene_id', 'revision', kept->'revision'
      ))::text);
      return null;
    end $$;
    create trigger told after insert or update or delete on scenes
      for each row execute function tell_change('scene');
    create trigger told after insert or update or delete on takes
      for each row execute function tell_change('take');
    create trigger told after insert or update or delete on proofs
      for each row execute function tell_change('proof');
    create trigger told after insert or update or delete on gear
      for each row execute function tell_change('gear');
    create trigger told after insert or update or delete on shoots
      for each row execute function tell_change('shoot');
  `.execute(db)
}
