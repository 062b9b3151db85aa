import { existsSync, mkdirSync } from 'node:fs'
import path from 'node:path'
import SQLite from 'better-sqlite3'
import { Kysely, Migrator, SqliteAdapter, SqliteDialect, SqliteDriver, type DatabaseConnection, type DialectAdapter, type Driver } from 'kysely'
import { refusal } from '@/core/words'
import * as shoots from './migrations/001-shoots'
import * as kit from './migrations/002-kit'
import * as survey from './migrations/003-survey'
import * as field from './migrations/004-field'
import * as fieldRuns from './migrations/005-field-runs'
import * as firmGround from './migrations/006-firm-ground'
import * as changed from './migrations/007-changed'
import * as mends from './migrations/008-mends'
import * as recipes from './migrations/009-recipes'
import * as finished from './migrations/010-finished'
import * as logbook from './migrations/011-logbook'
import * as practice from './migrations/012-practice'
import * as needed from './migrations/013-needed'
import * as raw from './migrations/014-raw'
import * as counts from './migrations/015-counts'
import * as fieldChanges from './migrations/016-field-changes'
import * as captures from './migrations/017-captures'
import * as imports from './migrations/018-imports'
import * as identities from './migrations/019-identities'
import { explained } from './explained'
import { plainText } from './plainText'
import type { Tables } from './tables'

export type Database = Kysely<Tables>

export const MIGRATIONS = {
  '001-shoots': shoots,
  '002-kit': kit,
  '003-survey': survey,
  '004-field': field,
  '005-field-runs': fieldRuns,
  '006-firm-ground': firmGround,
  '007-changed': changed,
  '008-mends': mends,
  '009-recipes': recipes,
  '010-finished': finished,
  '011-logbook': logbook,
  '012-practice': practice,
  '013-needed': needed,
  '014-raw': raw,
  '015-counts': counts,
  '016-field-changes': fieldChanges,
  '017-captures': captures,
  '018-imports': imports,
  '019-identities': identities,
}

/** Name of the database in a data folder. */
export const DATABASE_FILE = 'nitidus.db'

/** SQLite can change tables within a transaction; so either all migrations are made or none. */
class AtomicAdapter extends SqliteAdapter {
  override get supportsTransactionalDdl(): boolean {
    return true
  }
}

/** SQLite rolls back when the disk is full; a second rollback would hide the reason. */
class ForgivingDriver extends SqliteDriver {
  constructor(private readonly database: SQLite.Database) {
    super({ database })
  }

  override async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    if (this.database.inTransaction) await super.rollbackTransaction(connection)
  }
}

class AtomicDialect extends SqliteDialect {
  constructor(private readonly database: SQLite.Database) {
    super({ database })
  }

  override createAdapter(): DialectAdapter {
    return new AtomicAdapter()
  }

  override createDriver(): Driver {
    return new ForgivingDriver(this.database)
  }
}

/**
 * Opens (and where needed creates and migrates) the database of a data folder.
 * @throws Refusal where the disk is full, the database is damaged or was written by a newer version.
 */
export async function connect(dataFolder: string): Promise<Database> {
  const file = path.join(/* turbopackIgnore: true */ dataFolder, DATABASE_FILE)
  let sqlite: SQLite.Database | undefined
  let db: Database | undefined
  try {
    mkdirSync(dataFolder, { recursive: true })
    sqlite = openSafely(file)
    db = new Kysely<Tables>({ dialect: new AtomicDialect(sqlite) })
    await migrate(db, dataFolder)
    // Off during migrations, which drop tables that others refer to.
    sqlite.pragma('foreign_keys = ON')
    return db
  } catch (error) {
    await db?.destroy().catch(() => undefined)
    sqlite?.close()
    throw explained(error)
  }
}

/** A connection that survives a power cut: with WAL, FULL flushes every commit to the disk (SQLite, "PRAGMA synchronous"). */
function openSafely(file: string): SQLite.Database {
  const sqlite = new SQLite(file)
  try {
    sqlite.pragma('busy_timeout = 5000')
    sqlite.pragma('journal_mode = WAL')
    sqlite.pragma('synchronous = FULL')
    sqlite.pragma('foreign_keys = OFF')
    // The database of an archive may hold views and triggers of somebody else: they get no functions with side effects.
    sqlite.pragma('trusted_schema = OFF')
    sqlite.function('plain', { deterministic: true }, (text) => (text === null ? null : plainText(String(text))))
    return sqlite
  } catch (error) {
    sqlite.close()
    throw error
  }
}

async function migrate(db: Database, dataFolder: string): Promise<void> {
  const migrator = new Migrator({ db, provider: { getMigrations: async () => MIGRATIONS } })
  const made = (await migrator.getMigrations().catch(() => [])).filter(({ executedAt }) => executedAt)
  const { error } = await migrator.migrateToLatest()
  if (!error) return
  if (/corrupted migrations/i.test((error as Error).message) && made.length > 0) throw refusal('data.newer', { folder: dataFolder })
  throw error
}

/** Whether a folder holds a database of ours. */
export function holdsData(dataFolder: string): boolean {
  return existsSync(path.join(/* turbopackIgnore: true */ dataFolder, DATABASE_FILE))
}

export function now(): string {
  return new Date().toISOString()
}
