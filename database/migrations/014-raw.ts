import type { Kysely } from 'kysely'

/** Raw frames of a run are developed alike: how, stands with the run. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('run').addColumn('development_json', 'text').execute()
}
