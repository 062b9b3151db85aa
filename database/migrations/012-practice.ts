import type { Kysely } from 'kysely'

/** Tries at the exercises, for the record that shows what gets better. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('practice_try')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('uid', 'text', (c) => c.notNull().unique())
    .addColumn('exercise', 'text', (c) => c.notNull())
    .addColumn('level', 'integer', (c) => c.notNull())
    .addColumn('seed', 'integer', (c) => c.notNull())
    .addColumn('percent', 'real', (c) => c.notNull())
    .addColumn('took_s', 'real', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .execute()
}
