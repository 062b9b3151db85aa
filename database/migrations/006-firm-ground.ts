import { randomUUID } from 'node:crypto'
import { sql, type Kysely } from 'kysely'

interface Before {
  shoot: { id: number; uid: string; plan_json: string; sheet_json: string | null; scene: string }
  run: { id: number; shoot_id: number; uid: string; scene: string; plan_json: string; sheet_json: string | null; kit_json: string }
  frame: { id: number; name: string; uid: string; file: string }
  render: { id: number; uid: string; folder: string }
  kit_item: { id: number; uid: string; shelf: string; facts_json: string }
}

/**
 * Every record has a name of its own beside its number (`uid`), so that it is known again in another data folder; a run keeps
 * the plan and the kit it was shot by; files are found by the name they are stored under; the bin; jobs of any kind, of a
 * shoot, a run, a render or of everything, each with the code of what went wrong.
 */
export async function up(db: Kysely<Before>): Promise<void> {
  for (const table of ['shoot', 'run', 'frame', 'render', 'kit_item'] as const) {
    await db.schema.alterTable(table).addColumn('uid', 'text').execute()
    for (const { id } of await db.selectFrom(table).select('id').execute())
      await db.updateTable(table).set({ uid: randomUUID() }).where('id', '=', id).execute()
    await db.schema.createIndex(`${table}_uid`).unique().on(table).column('uid').execute()
  }
  for (const table of ['shoot', 'run', 'frame', 'render'] as const) await db.schema.alterTable(table).addColumn('binned_at', 'text').execute()
  await keepPlansWithRuns(db)
  await db.schema
    .alterTable('frame')
    .addColumn('file', 'text', (c) => c.notNull().defaultTo(''))
    .execute()
  await db
    .updateTable('frame')
    .set({ file: sql`name` })
    .execute()
  await db.schema.alterTable('frame').addColumn('colour_json', 'text').execute()
  await makeRendersAnew(db)
  await makeJobsAnew(db)
  await indexes(db)
}

async function keepPlansWithRuns(db: Kysely<Before>): Promise<void> {
  for (const column of ['scene', 'plan_json', 'sheet_json', 'kit_json']) await db.schema.alterTable('run').addColumn(column, 'text').execute()
  const kit: Record<string, unknown[]> = { bodies: [], lenses: [], attachments: [], rails: [], lights: [], calibrations: [] }
  for (const { shelf, facts_json } of await db.selectFrom('kit_item').select(['shelf', 'facts_json']).orderBy('id').execute())
    kit[shelf].push(JSON.parse(facts_json))
  const kit_json = JSON.stringify(kit)
  for (const { id, scene, plan_json, sheet_json } of await db.selectFrom('shoot').select(['id', 'scene', 'plan_json', 'sheet_json']).execute())
    await db.updateTable('run').set({ scene, plan_json, sheet_json, kit_json }).where('shoot_id', '=', id).execute()
}

/** A render no longer hangs on its job, and its folder has a name that was never used before. */
async function makeRendersAnew(db: Kysely<Before>): Promise<void> {
  await db.schema
    .createTable('render_new')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('uid', 'text', (c) => c.notNull().unique())
    .addColumn('run_id', 'integer', (c) => c.notNull().references('run.id').onDelete('cascade'))
    .addColumn('job_id', 'integer', (c) => c.references('job.id').onDelete('set null'))
    .addColumn('folder', 'text', (c) => c.notNull())
    .addColumn('report_json', 'text', (c) => c.notNull())
    .addColumn('bytes', 'integer', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .addColumn('binned_at', 'text')
    .execute()
  await sql`insert into render_new (id, uid, run_id, job_id, folder, report_json, bytes, created_at)
    select id, uid, run_id, job_id, cast(id as text), report_json, bytes, created_at from render`.execute(db)
  await db.schema.dropTable('render').execute()
  await sql`alter table render_new rename to render`.execute(db)
}

async function makeJobsAnew(db: Kysely<Before>): Promise<void> {
  await db.schema
    .createTable('job_new')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('kind', 'text', (c) => c.notNull())
    .addColumn('shoot_id', 'integer', (c) => c.references('shoot.id').onDelete('cascade'))
    .addColumn('run_id', 'integer', (c) => c.references('run.id').onDelete('cascade'))
    .addColumn('render_id', 'integer', (c) => c.references('render.id').onDelete('cascade'))
    .addColumn('state', 'text', (c) => c.notNull().check(sql`state in ('queued', 'running', 'done', 'failed', 'cancelled', 'interrupted')`))
    .addColumn('settings_json', 'text', (c) => c.notNull())
    .addColumn('progress_json', 'text')
    .addColumn('result_json', 'text')
    .addColumn('error', 'text')
    .addColumn('error_code', 'text')
    .addColumn('created_at', 'text', (c) => c.notNull())
    .addColumn('ended_at', 'text')
    .execute()
  await sql`insert into job_new (id, kind, shoot_id, run_id, state, settings_json, progress_json, error, created_at, ended_at)
    select id, kind, shoot_id, run_id, state, settings_json, progress_json, error, created_at, ended_at from job`.execute(db)
  await db.schema.dropTable('job').execute()
  await sql`alter table job_new rename to job`.execute(db)
}

async function indexes(db: Kysely<Before>): Promise<void> {
  await sql`create index frame_run on frame (run_id)`.execute(db)
  await sql`create index render_run on render (run_id)`.execute(db)
  await sql`create index run_shoot on run (shoot_id)`.execute(db)
  await sql`create index job_shoot on job (shoot_id)`.execute(db)
  await sql`create index job_state on job (state)`.execute(db)
}
