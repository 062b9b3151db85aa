import type { Kysely } from 'kysely'

/** Recipes that are kept under names, and what each render is being finished by. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('recipe')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('uid', 'text', (c) => c.notNull().unique())
    .addColumn('name', 'text', (c) => c.notNull().unique())
    .addColumn('recipe_json', 'text', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .execute()
  await db.schema
    .createTable('development')
    .addColumn('render_id', 'integer', (c) => c.primaryKey().references('render.id').onDelete('cascade'))
    .addColumn('recipe_json', 'text', (c) => c.notNull())
    .addColumn('changed_at', 'text', (c) => c.notNull())
    .execute()
}
