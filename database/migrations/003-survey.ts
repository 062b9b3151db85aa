import type { Kysely } from 'kysely'

/** What the survey of a run found, and which frames were set aside or restored by hand. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('run').addColumn('survey_json', 'text').execute()
  await db.schema.alterTable('frame').addColumn('aside', 'integer').execute()
}
