import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import SQLite from 'better-sqlite3'
import { ZipFile } from 'yazl'
import { refusal } from '@/core/words'
import { DATABASE_FILE, Folders, holdsData } from '@/database'
import { ARCHIVE_VERSION, MANIFEST_FILE, type Manifest } from './manifest'

export interface BackupRequest {
  dataFolder: string
  /** Ids of shoots; all of them where absent. */
  shoots?: number[]
  out: string
}

/** Told after every file: which one, and how many there are. */
export type BackupProgress = (file: number, of: number) => void

/**
 * Writes a data folder, or some of its shoots, into one ZIP archive: the database as SQLite's own online backup gives it, the
 * originals, the renders, and a manifest with the SHA-256 of each. The folder may be in use. Whole or not at all.
 * @throws Refusal where there is no data, or no room.
 */
export async function writeBackup({ dataFolder, shoots, out }: BackupRequest, progress: BackupProgress = () => undefined): Promise<Manifest> {
  if (!holdsData(dataFolder)) throw refusal('archive.noData', { folder: dataFolder })
  await mkdir(path.dirname(path.resolve(out)), { recursive: true })
  const part = `${out}.${randomUUID()}.part`
  const copy = `${out}.${randomUUID()}.db`
  try {
    await copyDatabase(path.join(dataFolder, DATABASE_FILE), copy, shoots)
    const manifest = await writeZip(part, copy, dataFolder, await filesOf(copy, dataFolder), progress)
    const handle = await open(part, 'r+')
    await handle.sync().finally(() => handle.close())
    await rename(part, out)
    return manifest
  } finally {
    for (const file of [part, copy, `${copy}-wal`, `${copy}-shm`, `${copy}-journal`]) await rm(file, { force: true })
  }
}

async function copyDatabase(from: string, to: string, shoots: number[] | undefined): Promise<void> {
  const source = new SQLite(from, { readonly: true })
  try {
    await source.backup(to)
  } finally {
    source.close()
  }
  const copy = new SQLite(to)
  try {
    copy.pragma('journal_mode = DELETE')
    copy.pragma('foreign_keys = ON')
    // Jobs belong to the machine they ran on.
    copy.exec('DELETE FROM job')
    if (shoots) {
      copy.prepare(`DELETE FROM shoot WHERE id NOT IN (${shoots.map(() => '?').join(',')})`).run(...shoots)
      copy.exec('VACUUM')
    }
  } finally {
    copy.close()
  }
}

/** Every file in the database, relative to the data folder, with / between folders. */
async function filesOf(database: string, dataFolder: string): Promise<string[]> {
  const folders = new Folders(dataFolder)
  const copy = new SQLite(database, { readonly: true })
  try {
    const frames = copy
      .prepare('SELECT run_id, file FROM frame UNION ALL SELECT run_id, capture.file FROM capture JOIN frame ON frame.id = frame_id')
      .all() as { run_id: number; file: string }[]
    const renders = copy.prepare('SELECT folder FROM render ORDER BY id').all() as { folder: string }[]
    const inside = await Promise.all(
      renders.map(async ({ folder }) =>
        (await readdir(folders.render(folder)).catch(() => ['result.tif'])).map((name) => `renders/${folder}/${name}`),
      ),
    )
    const originals = frames.map(({ run_id, file }) => path.relative(dataFolder, folders.frame(run_id, file)).split(path.sep).join('/'))
    return [...originals, ...inside.flat()]
  } finally {
    copy.close()
  }
}

async function writeZip(out: string, database: string, dataFolder: string, files: string[], progress: BackupProgress): Promise<Manifest> {
  const manifest: Manifest = { version: ARCHIVE_VERSION, made_at: new Date().toISOString(), files: {}, missing: [] }
  const sizes = await Promise.all(
    files.map((file) =>
      stat(path.join(dataFolder, file)).then(
        (found) => (found.isFile() ? found.size : undefined),
        () => undefined,
      ),
    ),
  )
  const zip = new ZipFile()
  const failed = new Promise<never>((_, reject) => zip.on('error', reject))
  // A stream is opened when its turn comes, so that no more than one file is open at a time.
  const add = (file: string, from: string, compress: boolean, done: () => void) =>
    zip.addReadStreamLazy(file, { compress, mtime: new Date(0) }, (callback) => {
      const meter = metered(manifest, file, done)
      pipeline(createReadStream(from), meter).catch((error: Error) => zip.emit('error', error))
      callback(null, meter)
    })
  add(DATABASE_FILE, database, true, () => progress(0, files.length))
  files.forEach((file, k) => {
    if (sizes[k] === undefined) manifest.missing.push(file)
    // Pictures are compressed already; packing them again takes minutes and gains nothing.
    else add(file, path.join(dataFolder, file), /\.(json|ply)$/.test(file), () => progress(k + 1, files.length))
  })
  zip.addReadStreamLazy(MANIFEST_FILE, { mtime: new Date(0) }, (callback) => callback(null, Readable.from([JSON.stringify(manifest, null, 1)])))
  zip.end()
  await Promise.race([pipeline(zip.outputStream, createWriteStream(out)), failed])
  return manifest
}

/** Passes bytes on and puts their checksum into the manifest when they have ended. */
function metered(manifest: Manifest, file: string, done: () => void): Transform {
  const hash = createHash('sha256')
  let bytes = 0
  return new Transform({
    transform: (chunk: Buffer, _, next) => {
      hash.update(chunk)
      bytes += chunk.length
      next(null, chunk)
    },
    flush: (next) => {
      manifest.files[file] = { sha256: hash.digest('hex'), bytes }
      done()
      next()
    },
  })
}
