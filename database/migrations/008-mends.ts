import type { Kysely } from 'kysely'

/** Mends: what is to be changed in a render, edit by edit; edits are only ever added. A mended picture is a render of its own. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('mend')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('uid', 'text', (c) => c.notNull().unique())
    .addColumn('render_id', 'integer', (c) => c.notNull().references('render.id').onDelete('cascade'))
    .addColumn('title', 'text', (c) => c.notNull())
    .addColumn('base_json', 'text', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .execute()
  await db.schema.createIndex('mend_render').on('mend').column('render_id').execute()
  await db.schema
    .createTable('mend_edit')
    .addColumn('number', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('mend_id', 'integer', (c) => c.notNull().references('mend.id').onDelete('cascade'))
    .addColumn('id', 'text', (c) => c.notNull())
    .addColumn('edit_json', 'text', (c) => c.notNull())
    .addColumn('created_at', 'text', (c) => c.notNull())
    .addUniqueConstraint('mend_edit_id', ['mend_id', 'id'])
    .execute()
}
