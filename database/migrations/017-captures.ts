import type { Kysely } from 'kysely'

/** Frames that were captured several times with a shifted sensor: their first capture is the frame's own file, the others stand here. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('capture')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('uid', 'text', (c) => c.notNull().unique())
    .addColumn('frame_id', 'integer', (c) => c.notNull().references('frame.id').onDelete('cascade'))
    .addColumn('name', 'text', (c) => c.notNull())
    .addColumn('file', 'text', (c) => c.notNull())
    .addColumn('sha256', 'text', (c) => c.notNull())
    .addColumn('bytes', 'integer', (c) => c.notNull())
    .addColumn('x_px', 'real', (c) => c.notNull())
    .addColumn('y_px', 'real', (c) => c.notNull())
    .addColumn('exif_json', 'text')
    .addColumn('created_at', 'text', (c) => c.notNull())
    .execute()
  await db.schema.createIndex('capture_of_frame').on('capture').column('frame_id').execute()
  await db.schema
    .alterTable('frame')
    .addColumn('captures_bytes', 'integer', (c) => c.notNull().defaultTo(0))
    .execute()
}
