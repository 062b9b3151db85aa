import type { Kysely } from 'kysely'

/** What the photographer notes of a run, for the logbook. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .alterTable('run')
    .addColumn('stars', 'integer', (c) => c.notNull().defaultTo(0))
    .execute()
  await db.schema
    .alterTable('run')
    .addColumn('note', 'text', (c) => c.notNull().defaultTo(''))
    .execute()
  await db.schema
    .alterTable('run')
    .addColumn('tags_json', 'text', (c) => c.notNull().defaultTo('[]'))
    .execute()
}
