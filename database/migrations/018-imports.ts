import type { Kysely } from 'kysely'

/** Folders that are being imported, so that a restart goes on where it stopped; those that are through are gone from here. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('import')
    .addColumn('run_id', 'integer', (c) => c.primaryKey().references('run.id').onDelete('cascade'))
    .addColumn('folder', 'text', (c) => c.notNull())
    .addColumn('paused', 'integer', (c) => c.notNull().defaultTo(0))
    .addColumn('begun_at', 'text', (c) => c.notNull())
    .execute()
}
