import { sql, type Kysely } from 'kysely'

/** How many frames a render needed stands with the render, so that it goes where the render goes. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('render').addColumn('needed_json', 'text').execute()
  await sql`update render set needed_json = (
    select result_json from job where job.render_id = render.id and kind = 'needed' and state = 'done' order by id desc limit 1
  )`.execute(db)
}
