import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readdir, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { refusal } from '@/core/words'
import { explained, type Database, type Job } from '@/database'
import type { StorageDetail } from '@/schemas'
import type { Bin } from './bin'
import type { JobQueue } from './jobs'
import type { PictureStore } from './pictures'
import { jobDetail } from './shoots'

/** Folders of `derived` that jobs read and write. */
const USED_BY_JOBS = ['registered', 'developed', 'previews', 'finished']

/** What takes the room of the data folder, and what can be done about it. */
export class Storage {
  constructor(
    private readonly db: Database,
    private readonly store: PictureStore,
    private readonly bin: Bin,
    private readonly jobs: JobQueue,
  ) {}

  async detail(): Promise<StorageDetail> {
    const { folders } = this.store
    const jobs = await this.db
      .selectFrom('job')
      .selectAll()
      .where('kind', 'in', ['check', 'backup', 'restore'])
      .orderBy('id', 'desc')
      .limit(5)
      .execute()
    return {
      originals: await this.store.sumOf('frame'),
      renders: await this.store.sumOf('render'),
      derived: await sizeOf(folders.derived()),
      backups: await this.backups(),
      bin: await this.bin.list(),
      jobs: jobs.map(jobDetail),
    }
  }

  /**
   * Deletes what can be made again: thumbnails, zoom pyramids, delivered files. While a job waits or runs, registrations, developed frames and
   * files that it may use or is writing stay.
   */
  async free(): Promise<void> {
    const { folders } = this.store
    const inUse = (await this.jobs.busy({})) ? USED_BY_JOBS : []
    const names = await readdir(folders.derived()).catch(() => [])
    for (const name of names.filter((each) => !inUse.includes(each))) await rm(folders.derived(name), { recursive: true, force: true })
  }

  /** Takes an archive in and adds what it holds and the data folder lacks. */
  async restore(bytes: Readable): Promise<Job> {
    const { folders } = this.store
    const name = `${randomUUID()}.zip`
    const file = path.join(folders.incoming(), name)
    try {
      await mkdir(folders.incoming(), { recursive: true })
      await pipeline(bytes, createWriteStream(file, { flush: true }))
      return await this.jobs.add('restore', {}, { archive: name })
    } catch (error) {
      await rm(file, { force: true })
      throw explained(error)
    }
  }

  /** A backup that was made, to be fetched. @throws Refusal where there is none of that name. */
  async backupFile(name: string): Promise<string> {
    if (!(await this.backups()).some((known) => known.name === name)) throw refusal('archive.missing', { name })
    return path.join(this.store.folders.backups(), name)
  }

  async removeBackup(name: string): Promise<void> {
    await rm(await this.backupFile(name), { force: true })
  }

  private async backups(): Promise<StorageDetail['backups']> {
    const folder = this.store.folders.backups()
    const names = (await readdir(folder).catch(() => [])).filter((name) => name.endsWith('.zip'))
    const found = await Promise.all(
      names.map(async (name) => {
        const { size, mtime } = await stat(path.join(folder, name))
        return { name, bytes: size, made_at: mtime.toISOString() }
      }),
    )
    return found.sort((a, b) => (a.made_at < b.made_at ? 1 : -1))
  }
}

async function sizeOf(folder: string): Promise<number> {
  const entries = await readdir(folder, { withFileTypes: true, recursive: true }).catch(() => [])
  const sizes = await Promise.all(
    entries
      .filter((entry) => entry.isFile())
      .map((entry) =>
        stat(path.join(entry.parentPath, entry.name)).then(
          ({ size }) => size,
          () => 0,
        ),
      ),
  )
  return sizes.reduce((a, b) => a + b, 0)
}
