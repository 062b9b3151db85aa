import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import path from 'node:path'
import { connect, DATABASE_FILE, Folders, type Database } from '@/database'
import { checkRecords } from './checkRecords'
import { mergeRecords, type Moves, type RestoreReport } from './mergeRecords'
import { openArchive, type OpenArchive } from './openArchive'

/** Told while the archive is checked and while files are taken out. */
export type RestoreProgress = (stage: 'verify' | 'extract', file: number, of: number) => void

/**
 * Reads an archive into a data folder: into an empty one everything, into another what it lacks (shoots, runs, frames, renders,
 * kit, field logs, and files of records that are there while their file is gone). Nothing that is there is changed, and where
 * anything goes wrong, nothing changes.
 * @throws Refusal where the archive is damaged, of a newer version, or the disk is full.
 */
export async function restoreBackup(dataFolder: string, archive: string, progress: RestoreProgress = () => undefined): Promise<RestoreReport> {
  const opened = await openArchive(archive, (file, of) => progress('verify', file, of))
  const scratch = path.join(dataFolder, 'incoming', `restore-${randomUUID()}`)
  try {
    await mkdir(scratch, { recursive: true })
    await opened.extract(DATABASE_FILE, path.join(scratch, DATABASE_FILE))
    const name = path.basename(archive)
    const from = await connect(scratch)
    const into = await connect(dataFolder)
    try {
      await checkRecords(from, into, name)
      return await merge(from, into, opened, dataFolder, scratch, progress)
    } finally {
      await from.destroy()
      await into.destroy()
    }
  } finally {
    opened.close()
    await rm(scratch, { recursive: true, force: true })
  }
}

async function merge(
  from: Database,
  into: Database,
  archive: OpenArchive,
  dataFolder: string,
  scratch: string,
  progress: RestoreProgress,
): Promise<RestoreReport> {
  const folders = new Folders(dataFolder)
  const moved: string[] = []
  // Told twice: first only what would be moved, so that every file is there before a record is.
  const rehearsal = await mergeRecords(from, into, async () => undefined, { keep: false, lacks })
  const wanted = filesOf(rehearsal.moves, archive)
  for (const [k, { from: file }] of wanted.entries()) {
    await archive.extract(file, path.join(scratch, 'files', file))
    progress('extract', k + 1, wanted.length)
  }
  try {
    const { report } = await mergeRecords(from, into, (moves) => moveIn(moves, moved), { keep: true, lacks })
    return { ...report, files: moved.length }
  } catch (error) {
    for (const file of moved) await rm(file, { force: true })
    throw error
  }

  /** Whether the file of a record that is here already is gone. */
  function lacks(runId: number, file: string): boolean {
    return !existsSync(folders.frame(runId, file))
  }

  async function moveIn(moves: Moves, done: string[]): Promise<void> {
    for (const { from: file, to } of filesOf(moves, archive)) {
      const source = path.join(scratch, 'files', file)
      if (!existsSync(source)) continue
      const target = path.join(dataFolder, to)
      await mkdir(path.dirname(target), { recursive: true })
      await rename(source, target)
      done.push(target)
    }
  }
}

/** Single files of moves, some of which are whole folders; those that the archive lacks are left out. */
function filesOf(moves: Moves, { manifest }: OpenArchive): Moves {
  const all = Object.keys(manifest.files)
  return moves.flatMap(({ from, to }) => {
    if (!from.endsWith('/')) return from in manifest.files ? [{ from, to }] : []
    return all.filter((file) => file.startsWith(from)).map((file) => ({ from: file, to: to + file.slice(from.length) }))
  })
}
