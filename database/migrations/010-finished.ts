import { sql, type Kysely } from 'kysely'

/** Files are written by jobs of kind `finish` now. Those of the kind before only wrote what could be made again, and nothing refers to them. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`delete from job where kind = 'deliver'`.execute(db)
}
