import { link, mkdir, rm } from 'node:fs/promises'
import type { Folders, Frame, Tables } from '@/database'
import type { Transaction } from 'kysely'
import { capturesOf } from '../pictures'

/** Frames on their way from one run to another: each file has both its names until the records say where it is. */
export class MovedFrames {
  private readonly before: string[] = []
  private readonly after: string[] = []

  constructor(private readonly folders: Folders) {}

  /** Moves a frame with all its captures, within the transaction that says so. */
  async move(writing: Transaction<Tables>, frame: Pick<Frame, 'id' | 'run_id' | 'file'>, runId: number): Promise<void> {
    await mkdir(this.folders.frames(runId), { recursive: true })
    for (const { file } of [frame, ...(await capturesOf(writing, frame.id))]) {
      const [from, to] = [frame.run_id, runId].map((run) => this.folders.frame(run, file))
      await link(from, to)
      this.after.push(to)
      this.before.push(from)
    }
    await writing.updateTable('frame').set({ run_id: runId }).where('id', '=', frame.id).execute()
  }

  /** The records are written: where the files were they are no more. */
  async done(): Promise<void> {
    await Promise.all(this.before.map((file) => rm(file, { force: true })))
  }

  /** The records stay as they were, and so do the files. */
  async undone(): Promise<void> {
    await Promise.all(this.after.map((file) => rm(file, { force: true })))
  }
}
