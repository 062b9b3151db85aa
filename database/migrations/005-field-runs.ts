import type { Kysely } from 'kysely'

/** With which entry of the field log a run began, so that devices that are switched on again go on where the log goes on. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('run').addColumn('begun_by', 'text').execute()
}
