import { rm } from 'node:fs/promises'
import { sql } from 'kysely'
import { refusal } from '@/core/words'
import { now, type Database } from '@/database'
import type { BinItem, BinKind } from '@/schemas'
import type { JobQueue, JobSubject } from './jobs'
import { capturesOf, type PictureStore } from './pictures'
import { finishedFolder } from './renders'

/** What was deleted is kept this long. */
export const KEPT_days = 30
const DAY_ms = 24 * 3600 * 1000

/** Deleted shoots, runs, frames and renders: out of sight, and put back or deleted for good from here. */
export class Bin {
  constructor(
    private readonly db: Database,
    private readonly store: PictureStore,
    private readonly jobs: JobQueue,
  ) {}

  /** @throws Refusal where there is no such thing, or a job works on it. */
  async put(kind: BinKind, id: number): Promise<void> {
    await this.checkIdle(kind, id)
    const { numUpdatedRows } = await this.db
      .updateTable(kind)
      .set({ binned_at: now() })
      .where('id', '=', id)
      .where('binned_at', 'is', null)
      .executeTakeFirst()
    if (Number(numUpdatedRows) === 0) throw refusal(`${kind}.gone`)
    if (kind === 'frame') await this.forgetSurvey(id)
  }

  /** @throws Refusal where it is no longer in the bin. */
  async putBack(kind: BinKind, id: number): Promise<void> {
    const { numUpdatedRows } = await this.db
      .updateTable(kind)
      .set({ binned_at: null })
      .where('id', '=', id)
      .where('binned_at', 'is not', null)
      .executeTakeFirst()
    if (Number(numUpdatedRows) === 0) throw refusal('bin.gone')
    if (kind === 'frame') await this.forgetSurvey(id)
  }

  /** Everything in the bin, the newest first; what lies in something that is in the bin itself is not listed again. */
  async list(): Promise<BinItem[]> {
    const shoots = await this.db.selectFrom('shoot').select(['id', 'title', 'binned_at']).where('binned_at', 'is not', null).execute()
    const runs = await this.db
      .selectFrom('run')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .select(['run.id', 'run.number', 'shoot.title', 'run.binned_at'])
      .where('run.binned_at', 'is not', null)
      .where('shoot.binned_at', 'is', null)
      .execute()
    const frames = await this.db
      .selectFrom('frame')
      .innerJoin('run', 'run.id', 'frame.run_id')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .where('run.binned_at', 'is', null)
      .where('shoot.binned_at', 'is', null)
      .select(['frame.id', 'frame.name', 'frame.bytes', 'run.number', 'shoot.title', 'frame.binned_at'])
      .where('frame.binned_at', 'is not', null)
      .execute()
    const renders = await this.db
      .selectFrom('render')
      .innerJoin('run', 'run.id', 'render.run_id')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .select(['render.id', 'render.bytes', 'run.number', 'shoot.title', 'render.binned_at'])
      .where('render.binned_at', 'is not', null)
      .where('run.binned_at', 'is', null)
      .where('shoot.binned_at', 'is', null)
      .execute()
    const items = [
      ...(await Promise.all(
        shoots.map(async ({ id, title, binned_at }) => item('shoot', id, title, await this.bytesOf({ shoot_id: id }), binned_at!)),
      )),
      ...(await Promise.all(
        runs.map(async ({ id, number, title, binned_at }) =>
          item('run', id, `${title}, run ${number}`, await this.bytesOf({ run_id: id }), binned_at!),
        ),
      )),
      ...frames.map(({ id, name, number, title, bytes, binned_at }) => item('frame', id, `${name} of ${title}, run ${number}`, bytes, binned_at!)),
      ...renders.map(({ id, number, title, bytes, binned_at }) => item('render', id, `a render of ${title}, run ${number}`, bytes, binned_at!)),
    ]
    return items.sort((a, b) => (a.binned_at < b.binned_at ? 1 : -1))
  }

  /** Deletes for good what has lain in the bin for long enough, or all that lies in it. Answers how many things. */
  async empty(all = false): Promise<number> {
    const before = all ? undefined : new Date(Date.now() - KEPT_days * DAY_ms).toISOString()
    let count = 0
    for (const { kind, id, binned_at } of await this.list()) {
      if (before !== undefined && binned_at > before) continue
      await this.remove(kind, id)
      count++
    }
    return count
  }

  /** The records first, in one step with all that hangs on them; then the files, which nothing speaks of any more. */
  private async remove(kind: BinKind, id: number): Promise<void> {
    const { folders } = this.store
    const frames = await this.framesOf(kind, id)
    const captures = await Promise.all(frames.map((frame) => capturesOf(this.db, frame.id)))
    const renders = await this.rendersOf(kind, id)
    const runs = await this.runsOf(kind, id)
    await this.db.deleteFrom(kind).where('id', '=', id).execute()
    for (const [k, { id: frame, uid, run_id, file }] of frames.entries()) {
      for (const one of [{ file }, ...captures[k]]) await rm(folders.frame(run_id, one.file), { force: true })
      await this.forget(`frame-${frame}`)
      await this.store.raw.forget(uid)
    }
    for (const run of runs) await rm(folders.derived('registered', `run-${run}.bin`), { force: true })
    for (const { id: render, folder, uid } of renders) {
      await rm(folders.render(folder), { recursive: true, force: true })
      await this.forget(`render-${render}`)
      await rm(finishedFolder(folders, { uid }), { recursive: true, force: true })
    }
  }

  /** What was made of a picture: another may come by the same number. */
  private async forget(name: string): Promise<void> {
    const { folders } = this.store
    await rm(folders.derived('thumbs', `${name}.jpg`), { force: true })
    await rm(folders.derived('zoom', name), { recursive: true, force: true })
    await rm(folders.derived('maps', `${name}.png`), { force: true })
  }

  private async runsOf(kind: BinKind, id: number): Promise<number[]> {
    if (kind === 'run') return [id]
    if (kind !== 'shoot') return []
    return (await this.db.selectFrom('run').select('id').where('shoot_id', '=', id).execute()).map((run) => run.id)
  }

  private framesOf(kind: BinKind, id: number) {
    const rows = this.db
      .selectFrom('frame')
      .innerJoin('run', 'run.id', 'frame.run_id')
      .select(['frame.id', 'frame.uid', 'frame.run_id', 'frame.file'])
    switch (kind) {
      case 'shoot':
        return rows.where('run.shoot_id', '=', id).execute()
      case 'run':
        return rows.where('run.id', '=', id).execute()
      case 'frame':
        return rows.where('frame.id', '=', id).execute()
      case 'render':
        return Promise.resolve([])
    }
  }

  private rendersOf(kind: BinKind, id: number) {
    const rows = this.db.selectFrom('render').innerJoin('run', 'run.id', 'render.run_id').select(['render.id', 'render.folder', 'render.uid'])
    switch (kind) {
      case 'shoot':
        return rows.where('run.shoot_id', '=', id).execute()
      case 'run':
        return rows.where('run.id', '=', id).execute()
      case 'render':
        return rows.where('render.id', '=', id).execute()
      case 'frame':
        return Promise.resolve([])
    }
  }

  private async bytesOf(of: { shoot_id: number } | { run_id: number }): Promise<number> {
    const sums = await Promise.all(
      (['frame', 'render'] as const).map((table) => {
        const rows = this.db
          .selectFrom(table)
          .innerJoin('run', 'run.id', `${table}.run_id`)
          .select(sql<number | null>`sum(${sql.ref(`${table}.bytes`)}${table === 'frame' ? sql` + frame.captures_bytes` : sql``})`.as('sum'))
        return ('run_id' in of ? rows.where('run.id', '=', of.run_id) : rows.where('run.shoot_id', '=', of.shoot_id)).executeTakeFirstOrThrow()
      }),
    )
    return sums.reduce((all, { sum }) => all + Number(sum ?? 0), 0)
  }

  private async checkIdle(kind: BinKind, id: number): Promise<void> {
    const subject: JobSubject | undefined =
      kind === 'shoot'
        ? { shoot_id: id }
        : kind === 'run'
          ? { run_id: id }
          : kind === 'render'
            ? { render_id: id }
            : await this.db.selectFrom('frame').select('run_id').where('id', '=', id).executeTakeFirst()
    if (subject && (await this.jobs.busy(subject))) throw refusal('run.busy')
  }

  private async forgetSurvey(frameId: number): Promise<void> {
    await this.db
      .updateTable('run')
      .set({ survey_json: null })
      .where('id', '=', (e) => e.selectFrom('frame').select('run_id').where('id', '=', frameId))
      .execute()
  }
}

function item(kind: BinKind, id: number, title: string, bytes: number, binned_at: string): BinItem {
  return { kind, id, title, bytes, binned_at, until: new Date(Date.parse(binned_at) + KEPT_days * DAY_ms).toISOString() }
}
