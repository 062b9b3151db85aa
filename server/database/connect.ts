import { mkdirSync } from 'node:fs'
import path from 'node:path'
import SQLite from 'better-sqlite3'
import { Kysely, Migrator, SqliteDialect } from 'kysely'
import * as shoots from './migrations/001-shoots'
import * as kit from './migrations/002-kit'
import * as survey from './migrations/003-survey'
import * as field from './migrations/004-field'
import * as fieldRuns from './migrations/005-field-runs'
import type { Tables } from './tables'

export type Database = Kysely<Tables>

const MIGRATIONS = { '001-shoots': shoots, '002-kit': kit, '003-survey': survey, '004-field': field, '005-field-runs': fieldRuns }

/** Opens (and where needed creates and migrates) the database of a data folder. */
export async function connect(dataFolder: string): Promise<Database> {
  mkdirSync(dataFolder, { recursive: true })
  const file = new SQLite(path.join(/* turbopackIgnore: true */ dataFolder, 'nitidus.db'))
  file.pragma('journal_mode = WAL')
  file.pragma('foreign_keys = ON')
  file.pragma('busy_timeout = 5000')
  const db: Database = new Kysely<Tables>({ dialect: new SqliteDialect({ database: file }) })
  const { error } = await new Migrator({ db, provider: { getMigrations: async () => MIGRATIONS } }).migrateToLatest()
  if (error) throw error
  return db
}

export function now(): string {
  return new Date().toISOString()
}
