import PQueue from 'p-queue'
import { LEAST_TO_SPLIT, Transfer } from '@/core/batch'
import { isRefusal, refusal, say } from '@/core/words'
import { explained, now, type Database } from '@/database'
import type { ImportDetail } from '@/schemas'
import type { JobQueue } from './jobs'
import type { FolderFiles, PictureStore } from './pictures'
import type { Shoots } from './shoots'

/** While one file is checked the next ones are read. */
const AT_ONCE = 3
/** As many refusals are shown. */
const MOST_TOLD = 100

interface Going {
  detail: ImportDetail
  queue: PQueue
  transfer: Transfer
}

/**
 * Imports folders of this machine, file by file: they can be paused, and resume after a restart. Frames that are in the run already are
 * not read again. When all files are through the run is split into its series.
 */
export class Importing {
  private readonly byShoot = new Map<number, Going>()
  /** Folders that are about to be imported, by shoot: their files are being listed. */
  private readonly beginning = new Map<number, string>()

  constructor(
    private readonly db: Database,
    private readonly store: PictureStore,
    private readonly shoots: Shoots,
    private readonly jobs: JobQueue,
  ) {}

  /**
   * Begins to import a folder into a new run of a shoot; answers how it goes.
   * @throws Refusal where the folder leads out of the import root, is none, or holds no pictures, or another one is being imported.
   */
  async begin(shootId: number, folder: string): Promise<ImportDetail> {
    const before = this.byShoot.get(shootId)
    const busy = before && !before.detail.ended ? before.detail.folder : this.beginning.get(shootId)
    if (busy !== undefined) throw refusal('import.busy', { folder: busy })
    this.beginning.set(shootId, folder)
    try {
      const files = await this.store.filesIn(folder)
      // A card that was pulled out and is back resumes where it stopped.
      const broken = before?.detail.folder === folder && before.detail.ended?.code !== 'import.done'
      const run = broken ? before.detail.run : await this.shoots.addRun(shootId, 'imported')
      await this.db.insertInto('import').values({ run_id: run, folder, begun_at: now() }).execute()
      return this.goOn(shootId, run, folder, files, false)
    } finally {
      this.beginning.delete(shootId)
    }
  }

  /** Takes up what a stopped application left. */
  async recover(): Promise<void> {
    const left = await this.db
      .selectFrom('import')
      .innerJoin('run', 'run.id', 'import.run_id')
      .select(['run_id', 'shoot_id', 'folder', 'paused'])
      .execute()
    for (const { run_id, shoot_id, folder, paused } of left) {
      const files = await this.store.filesIn(folder).catch((error: Error) => console.error(`${folder}: ${error.message}`))
      if (files) this.goOn(shoot_id, run_id, folder, files, paused === 1)
      else {
        // The card is not in, or cannot be read: the import resumes when the folder is imported again.
        await this.forget(run_id)
        this.byShoot.set(shoot_id, idle({ run: run_id, folder, ended: say('import.gone', { folder }) }))
      }
    }
  }

  /** How the newest import of a shoot goes; null where there was none since the application began. */
  of(shootId: number): ImportDetail | null {
    const going = this.byShoot.get(shootId)
    if (!going) return null
    const { detail, transfer } = going
    return { ...detail, pace: detail.ended ? null : (transfer.pace ?? null) }
  }

  /** Files that are being read are finished; no other is started until the import resumes. */
  async pause(shootId: number, paused: boolean): Promise<void> {
    const going = this.byShoot.get(shootId)
    if (!going || going.detail.ended) return
    const { detail, queue, transfer } = going
    await this.db
      .updateTable('import')
      .set({ paused: Number(paused) })
      .where('run_id', '=', detail.run)
      .execute()
    detail.paused = paused
    if (paused) transfer.rest()
    else transfer.goOn()
    if (paused) queue.pause()
    else queue.start()
  }

  /** Ends an import; frames that are in stay. An import that had ended is no longer reported. */
  async end(shootId: number): Promise<void> {
    const going = this.byShoot.get(shootId)
    if (!going) return
    await this.forget(going.detail.run)
    await stop(going)
    this.byShoot.delete(shootId)
  }

  /** Stops; the next start resumes. */
  async close(): Promise<void> {
    await Promise.all([...this.byShoot.values()].map(stop))
  }

  private goOn(shootId: number, run: number, folder: string, files: FolderFiles, paused: boolean): ImportDetail {
    const queue = new PQueue({ concurrency: AT_ONCE, autoStart: !paused })
    const transfer = new Transfer(files.kept.reduce((sum, { bytes }) => sum + bytes, 0))
    if (paused) transfer.rest()
    const { refused } = files
    const detail: ImportDetail = {
      ...{ run, folder, paused, taken: 0, ended: null, pace: null },
      total: files.kept.length + refused.length,
      refusedCount: refused.length,
      refused: refused.slice(0, MOST_TOLD),
    }
    const going: Going = { detail, queue, transfer }
    this.byShoot.set(shootId, going)
    void this.carryOut(shootId, going, files)
    return detail
  }

  private async carryOut(shootId: number, { detail, queue, transfer }: Going, files: FolderFiles): Promise<void> {
    try {
      const here = await this.store.namesIn(detail.run)
      const take = async ({ name, bytes }: { name: string; bytes: number }) => {
        if (here.has(name)) detail.taken++
        else await this.take(detail, files, name)
        transfer.pass(bytes)
      }
      await queue.addAll(files.kept.map((file) => () => take(file)))
      await this.forget(detail.run)
      // Before it is said to have ended: what is done with the frames waits for both.
      if (detail.taken >= LEAST_TO_SPLIT) await this.jobs.add('split', { shoot_id: shootId, run_id: detail.run }, {})
      detail.ended = say('import.done', { taken: detail.taken, total: detail.total })
    } catch (error) {
      queue.clear()
      await this.forget(detail.run).catch(() => undefined)
      const known = explained(error)
      detail.ended = isRefusal(known) ? { code: known.code, text: known.message } : say('import.gone', { folder: detail.folder })
    }
  }

  /** Imports one file. A fault of the file is reported and the next one follows; a full disk, a missing card or a missing run ends the import. */
  private async take(detail: ImportDetail, files: FolderFiles, name: string): Promise<void> {
    try {
      await this.store.bringFrom(files.from, detail.run, name)
      detail.taken++
    } catch (error) {
      const known = explained(error)
      if (!isRefusal(known) || known.code.startsWith('disk.') || known.code === 'run.gone') throw known
      detail.refusedCount++
      detail.refused = [...detail.refused, { name, code: known.code, text: known.message }].slice(0, MOST_TOLD)
    }
  }

  private async forget(run: number): Promise<void> {
    await this.db.deleteFrom('import').where('run_id', '=', run).execute()
  }
}

const idle = (detail: Pick<ImportDetail, 'run' | 'folder' | 'ended'>): Going => ({
  detail: { ...detail, total: 0, taken: 0, refused: [], refusedCount: 0, paused: false, pace: null },
  queue: new PQueue(),
  transfer: new Transfer(0),
})

/** What is on its way arrives. */
async function stop({ queue }: Going): Promise<void> {
  queue.pause()
  queue.clear()
  await queue.onPendingZero()
}
