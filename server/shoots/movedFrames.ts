import { link, mkdir, rm } from 'node:fs/promises'
import { refusal } from '@/core/words'
import type { Database, Folders, Frame, Tables } from '@/database'
import type { Transaction } from 'kysely'
import { capturesOf } from '../pictures'

type Moving = Pick<Frame, 'id' | 'run_id' | 'file'>

/**
 * Moves frames between runs: `change` writes the records in one transaction and calls `move` for each frame. Every file has both its names
 * until the records are committed, so that none is lost wherever this stops: an error before the commit removes the new names, and nothing
 * after it removes anything but the old ones.
 */
export async function moveFrames<T>(
  db: Database,
  folders: Folders,
  change: (writing: Transaction<Tables>, move: (frame: Moving, runId: number) => Promise<void>) => Promise<T>,
): Promise<T> {
  const [before, after]: [string[], string[]] = [[], []]
  let changed: T
  try {
    changed = await db.transaction().execute((writing) =>
      change(writing, async (frame, runId) => {
        await mkdir(folders.frames(runId), { recursive: true })
        for (const { file } of [frame, ...(await capturesOf(writing, frame.id))]) {
          const [from, to] = [frame.run_id, runId].map((run) => folders.frame(run, file))
          if (await isUsed(writing, runId, file)) throw refusal('frame.nameTaken', { name: file })
          await linkOver(from, to)
          after.push(to)
          before.push(from)
        }
        await writing.updateTable('frame').set({ run_id: runId }).where('id', '=', frame.id).execute()
      }),
    )
  } catch (error) {
    await removeAll(after)
    throw error
  }
  await removeAll(before)
  return changed
}

/** Whether a frame or capture of a run has this file, one in the bin included. */
async function isUsed(db: Transaction<Tables>, runId: number, file: string): Promise<boolean> {
  const frames = db.selectFrom('frame').select('file').where('run_id', '=', runId).where('file', '=', file)
  const captures = db.selectFrom('capture').innerJoin('frame', 'frame.id', 'frame_id').select('capture.file').where('run_id', '=', runId)
  return [await frames.executeTakeFirst(), await captures.where('capture.file', '=', file).executeTakeFirst()].some((found) => found !== undefined)
}

/** No record uses `to`; a name that an earlier move could not remove is replaced. */
async function linkOver(from: string, to: string): Promise<void> {
  await link(from, to).catch(async (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error
    await rm(to)
    await link(from, to)
  })
}

/** A name that cannot be removed is left: no record uses it. */
async function removeAll(files: string[]): Promise<void> {
  for (const file of files) await rm(file, { force: true }).catch((error: Error) => console.error(error.message))
}
