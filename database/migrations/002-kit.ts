import { sql, type Kysely } from 'kysely'
import { STARTER_KIT, type KitItem } from '@/core/kit'

/** The kit, with the studio's made-up one to begin with, and what stood in a plan's fields. */
export async function up(db: Kysely<{ kit_item: { shelf: string; name: string; facts_json: string } }>): Promise<void> {
  await db.schema
    .createTable('kit_item')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('shelf', 'text', (c) => c.notNull().check(sql`shelf in ('bodies', 'lenses', 'attachments', 'rails', 'lights', 'calibrations')`))
    .addColumn('name', 'text', (c) => c.notNull())
    .addColumn('facts_json', 'text', (c) => c.notNull())
    .addUniqueConstraint('kit_item_name', ['shelf', 'name'])
    .execute()
  await db.schema.alterTable('shoot').addColumn('sheet_json', 'text').execute()
  const rows = Object.entries(STARTER_KIT).flatMap(([shelf, items]) =>
    items.map((item: KitItem) => ({ shelf, name: item.name, facts_json: JSON.stringify(item) })),
  )
  await db.insertInto('kit_item').values(rows).execute()
}
