import { sql } from 'kysely'
import { refusal } from '@/core/words'
import { isPlainName, type Database } from '@/database'

/**
 * Checks the database of an archive, which anyone may have made, before any record is copied: it holds only tables, columns and triggers that
 * are known here, and only names that stay in their folder.
 * @throws Refusal where it holds anything else; for a name it says which.
 */
export async function checkRecords(from: Database, into: Database, name: string): Promise<void> {
  const [theirs, ours] = await Promise.all([from, into].map(schemaOf))
  if (theirs.some((part) => !ours.includes(part))) throw refusal('archive.unreadable', { name })
  const frames = await from.selectFrom('frame').select(['uid', 'file']).execute()
  const captures = await from.selectFrom('capture').select(['uid', 'file']).execute()
  const renders = await from.selectFrom('render').select(['uid', 'folder as file']).execute()
  const outside = [...frames, ...captures, ...renders].flatMap(({ uid, file }) => [uid, file]).find((each) => !isPlainName(each))
  if (outside !== undefined) throw refusal('archive.outside', { name, file: outside })
}

/** Every column as `table.column`, and the SQL of triggers, views and virtual tables. */
async function schemaOf(db: Database): Promise<string[]> {
  const tables = await db.introspection.getTables()
  const { rows } = await sql<{ sql: string }>`
    select sql from sqlite_master where type in ('trigger', 'view') or sql like 'CREATE VIRTUAL%'`.execute(db)
  return [...tables.flatMap(({ name, columns }) => columns.map((column) => `${name}.${column.name}`)), ...rows.map((row) => row.sql)]
}
