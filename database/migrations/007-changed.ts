import { sql, type Kysely } from 'kysely'

/** When a shoot's plan or words were last changed, so that what one works on can be listed first. */
export async function up(db: Kysely<{ shoot: { changed_at: string; created_at: string } }>): Promise<void> {
  await db.schema
    .alterTable('shoot')
    .addColumn('changed_at', 'text', (c) => c.notNull().defaultTo(''))
    .execute()
  await db
    .updateTable('shoot')
    .set({ changed_at: sql`created_at` })
    .execute()
}
