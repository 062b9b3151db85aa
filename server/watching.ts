import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { access, readdir } from 'node:fs/promises'
import path from 'node:path'
import { watch, type FSWatcher } from 'chokidar'
import PQueue from 'p-queue'
import { isPicture, isRaw, withoutPairs } from '@/core/batch'
import { framesTold } from '@/core/field'
import { isRefusal, refusal, say } from '@/core/words'
import type { WatchDetail } from '@/schemas'
import type { Environment } from './environment'
import type { FieldLogs } from './field'
import { openWatched, regularFile, type ImportFolder, type PictureStore } from './pictures'
import type { Shoots } from './shoots'

/** A file that did not grow for this long is complete. */
const COMPLETE_ms = 1200
/** A camera that writes a frame twice writes its raw file right after the JPEG. */
const TWIN_ms = 2500
/** Whether the folder is still there is asked this often: its removal is not always told of, a card that is pulled out never. */
const THERE_ms = 1000
/** As many refusals are shown. */
const MOST_TOLD = 20

interface Watched extends ImportFolder {
  detail: WatchDetail
  shootId: number
  /** Frames that the field log told of when it began; undefined where nothing is planned, so that there is no card to go on with. */
  ticksBefore?: number
  watcher: FSWatcher
  there: NodeJS.Timeout
  /** One file after the other, in the order in which they came. */
  queue: PQueue
}

/** Folders that frames are dropped into while a shoot goes on, by a tethering program or a card reader: what comes enters the open run. */
export class Watching {
  private readonly byShoot = new Map<number, Watched>()

  constructor(
    private readonly environment: Environment,
    private readonly store: PictureStore,
    private readonly shoots: Shoots,
    private readonly field: FieldLogs,
  ) {}

  /**
   * Watches a folder for a shoot: what lies in it already stays there, what comes enters a run of its own. Ends watching another one.
   * @throws Refusal where the folder leads out of the import root, or is none.
   */
  async begin(shootId: number, folder: string): Promise<WatchDetail> {
    const from = await openWatched(this.environment.importRoot, folder)
    const before = new Set(await readdir(from.inside))
    await this.end(shootId)
    const run = await this.shoots.addRun(shootId, 'imported')
    const watcher = watch(from.inside, {
      depth: 0,
      ignoreInitial: true,
      awaitWriteFinish: { stabilityThreshold: COMPLETE_ms, pollInterval: 200 },
    })
    const detail: WatchDetail = { folder, run, taken: 0, refused: [], ended: null }
    const there = setInterval(() => void access(from.inside).catch(() => this.over(watched)), THERE_ms)
    const planned = (await this.shoots.shoot(shootId)).plan_json !== null
    const ticksBefore = planned ? framesTold(await this.field.of(shootId)) : undefined
    const watched: Watched = { ...from, detail, shootId, ticksBefore, watcher, there, queue: new PQueue({ concurrency: 1 }) }
    watcher.on('add', (file) => {
      const name = path.basename(file)
      if (!before.has(name) && isPicture(name) && !name.startsWith('.')) void watched.queue.add(() => this.take(watched, name))
    })
    watcher.on('error', () => void this.over(watched))
    await new Promise<void>((resolve) => watcher.once('ready', resolve))
    this.byShoot.set(shootId, watched)
    return detail
  }

  /** How the watching of a shoot goes; null where nothing was watched since the application began. */
  of(shootId: number): WatchDetail | null {
    return this.byShoot.get(shootId)?.detail ?? null
  }

  /** Watches no longer; what has come is taken in first. */
  async end(shootId: number): Promise<void> {
    const watched = this.byShoot.get(shootId)
    if (!watched) return
    clearInterval(watched.there)
    await watched.watcher.close()
    await watched.queue.onIdle()
    this.byShoot.delete(shootId)
  }

  async close(): Promise<void> {
    await Promise.all([...this.byShoot.keys()].map((shootId) => this.end(shootId)))
  }

  private async take(watched: Watched, name: string): Promise<void> {
    const { detail } = watched
    try {
      const raw = isRaw(name) ? undefined : await this.twinOf(watched, name)
      if (raw) throw refusal('raw.pair', { name, raw })
      const file = await regularFile(watched, name)
      await this.store.bring(detail.run, name, createReadStream(file))
      detail.taken++
      await this.tick(watched)
    } catch (error) {
      const sentence = isRefusal(error) ? { code: error.code, text: error.message } : say('picture.missing', { name })
      detail.refused = [...detail.refused, { name, ...sentence }].slice(-MOST_TOLD)
    }
  }

  /** A frame that came is one that the run card need not wait for, unless a hand has ticked it already. */
  private async tick({ shootId, ticksBefore, detail }: Watched): Promise<void> {
    if (ticksBefore === undefined) return
    const log = await this.field.of(shootId)
    if (framesTold(log) - ticksBefore >= detail.taken) return
    // After everything that is there: the clock of a phone may be ahead.
    const last = Date.parse(log.at(-1)?.at ?? '') || 0
    const at = new Date(Math.max(Date.now(), last + 1)).toISOString()
    await this.field.add(shootId, [{ id: randomUUID(), at, kind: 'taken' }])
  }

  /** The raw file of the same frame, which may still be on its way. */
  private async twinOf({ inside }: ImportFolder, name: string): Promise<string | undefined> {
    const raws = await readdir(inside).catch(() => [])
    // Where no raw file ever came, none is waited for.
    if (!raws.some(isRaw)) return undefined
    for (const waited of [0, TWIN_ms]) {
      await new Promise((resolve) => setTimeout(resolve, waited))
      const names = (await readdir(inside).catch(() => [])).map((found) => ({ name: found }))
      const pair = withoutPairs(names).pairs.find(({ file }) => file.name === name)
      if (pair) return pair.raw
    }
    return undefined
  }

  private async over(watched: Watched): Promise<void> {
    if (watched.detail.ended) return
    clearInterval(watched.there)
    watched.detail.ended = say('watch.gone', { folder: watched.detail.folder })
    await watched.watcher.close()
  }
}
