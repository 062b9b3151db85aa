import type { Kysely } from 'kysely'

/** What happened in the field, entry by entry, as the phones send it; and why a run was split off another. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('field_entry')
    .addColumn('id', 'text', (column) => column.primaryKey())
    .addColumn('shoot_id', 'integer', (column) => column.notNull().references('shoot.id').onDelete('cascade'))
    .addColumn('at', 'text', (column) => column.notNull())
    .addColumn('event_json', 'text', (column) => column.notNull())
    .execute()
  await db.schema.alterTable('run').addColumn('reason', 'text').execute()
  await db.schema.createIndex('field_entry_shoot').on('field_entry').columns(['shoot_id', 'at']).execute()
}
