import { mkdirSync } from 'node:fs'
import path from 'node:path'
import SQLite from 'better-sqlite3'
import { refusal } from '@/core/words'
import { explained } from './explained'

/** A data folder held by this process; let go of by `release`, or by the system when the process ends however it does. */
export interface DataLock {
  release(): void
}

/**
 * Holds a data folder for this process. It is a transaction on a database of its own that is never ended: the system keeps
 * such locks with the process, so that one that was killed leaves none behind.
 * @throws Refusal where another process holds it.
 */
export function lockData(dataFolder: string): DataLock {
  let sqlite: SQLite.Database | undefined
  try {
    mkdirSync(dataFolder, { recursive: true })
    sqlite = new SQLite(path.join(/* turbopackIgnore: true */ dataFolder, 'nitidus.lock'), { timeout: 0 })
    sqlite.exec('BEGIN EXCLUSIVE')
    const held = sqlite
    return { release: () => void held.close() }
  } catch (error) {
    sqlite?.close()
    if (String((error as { code?: string }).code).startsWith('SQLITE_BUSY')) throw refusal('data.inUse', { folder: dataFolder })
    throw explained(error)
  }
}
