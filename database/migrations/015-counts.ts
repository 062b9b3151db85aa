import { sql, type Kysely } from 'kysely'

/**
 * How many frames of a run are fused is worked out once and kept until something of it changes: lists of thousands of shoots would else
 * read every survey. Whatever may change it (frames, what is left out, the survey) forgets it by itself.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('run').addColumn('used_count', 'integer').execute()
  const forget = (run: string) => `update run set used_count = null where id = ${run};`
  for (const [name, when, body] of [
    ['frame_added', 'after insert on frame', forget('new.run_id')],
    ['frame_changed', 'after update of aside, binned_at, run_id, name on frame', forget('old.run_id') + forget('new.run_id')],
    ['frame_removed', 'after delete on frame', forget('old.run_id')],
    ['run_surveyed', 'after update of survey_json on run', forget('new.id')],
  ])
    await sql.raw(`create trigger ${name} ${when} begin ${body} end`).execute(db)
  // Counted without a look at the frames themselves.
  await db.schema.createIndex('frame_counted').on('frame').columns(['run_id', 'binned_at', 'created_at']).execute()
  await db.schema.createIndex('render_counted').on('render').columns(['run_id', 'binned_at', 'created_at']).execute()
  await db.schema.createIndex('run_of_shoot').on('run').columns(['shoot_id', 'binned_at', 'used_count']).execute()
}
