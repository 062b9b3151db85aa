import { randomUUID } from 'node:crypto'
import type { Transaction } from 'kysely'
import type { NeutralPlace } from '@/core/develop'
import { refusal } from '@/core/words'
import { now, type Database, type Frame, type Job, type Run, type Shoot, type Tables } from '@/database'
import {
  storedPlan,
  storedSheet,
  type JobDetail,
  type ShootDetail,
  type ShootPage,
  type ShootQuery,
  type ShootRequest,
  type ShootWords,
} from '@/schemas'
import { FieldLogs } from '../field'
import type { KitStore } from '../kit'
import { takeCapturesApart, type PictureStore } from '../pictures'
import { joinRun } from './joinRun'
import { found } from './find'
import { runDetail } from './runDetail'
import { outlinesOf, summariesOf } from './summary'

/** So many shoots are handed out at a time. */
const PAGE = 24

/** The shoots of a database: what was planned, shot and fused. What lies in the bin is not shown. */
export class Shoots {
  constructor(
    private readonly db: Database,
    private readonly store: PictureStore,
    private readonly kit: KitStore,
  ) {}

  /** A part of the shoots that are asked for, from a place on; by default those that changed last. */
  async list(asked: Partial<ShootQuery> = {}): Promise<ShootPage> {
    const { words = '', state = '', order = 'changed', from = 0 } = asked
    const all = await outlinesOf(this.db)
    const list = found(all, { words, state, order })
    return { shoots: await summariesOf(this.db, list.slice(from, from + PAGE)), found: list.length, all: all.length }
  }

  async create(request: ShootRequest): Promise<number> {
    const { id } = await this.db
      .insertInto('shoot')
      .values({ uid: randomUUID(), ...rowOf(request), created_at: now() })
      .returning('id')
      .executeTakeFirstOrThrow()
    return id
  }

  /** Plans a shoot anew; its runs keep the plan that they were shot by. */
  async replan(shootId: number, request: ShootRequest): Promise<void> {
    await this.shoot(shootId)
    await this.db.updateTable('shoot').set(rowOf(request)).where('id', '=', shootId).execute()
  }

  async rename(shootId: number, words: ShootWords): Promise<void> {
    await this.shoot(shootId)
    await this.db
      .updateTable('shoot')
      .set({ ...words, changed_at: now() })
      .where('id', '=', shootId)
      .execute()
  }

  /** Plans the same once more: a shoot of its own without runs. Answers its number. */
  async planAgain(shootId: number): Promise<number> {
    const { title, subject, scene, plan_json, sheet_json } = await this.shoot(shootId)
    const { id } = await this.db
      .insertInto('shoot')
      .values({
        uid: randomUUID(),
        title: `${title.slice(0, 112)}, again`,
        subject,
        scene,
        plan_json,
        sheet_json,
        created_at: now(),
        changed_at: now(),
      })
      .returning('id')
      .executeTakeFirstOrThrow()
    return id
  }

  async detail(shootId: number): Promise<ShootDetail> {
    const shoot = await this.shoot(shootId)
    const { plan: _, planned: __, ...summary } = (await summariesOf(this.db, await outlinesOf(this.db, shootId)))[0]
    const runs = await this.db
      .selectFrom('run')
      .selectAll()
      .where('shoot_id', '=', shootId)
      .where('binned_at', 'is', null)
      .orderBy('number', 'desc')
      .execute()
    const jobs = await this.db.selectFrom('job').selectAll().where('shoot_id', '=', shootId).orderBy('id', 'desc').limit(20).execute()
    return {
      ...summary,
      scene: shoot.scene,
      planRequest: storedPlan(shoot.plan_json),
      sheet: shoot.sheet_json ? storedSheet(shoot.sheet_json) : null,
      runs: await Promise.all(runs.map((run) => runDetail(this.db, this.store, run))),
      jobs: jobs.map(jobDetail),
      field: await new FieldLogs(this.db).of(shootId),
    }
  }

  /** @throws Refusal where there is no such shoot, or it lies in the bin. */
  async shoot(shootId: number): Promise<Shoot> {
    const shoot = await this.db.selectFrom('shoot').selectAll().where('id', '=', shootId).where('binned_at', 'is', null).executeTakeFirst()
    if (!shoot) throw refusal('shoot.gone')
    return shoot
  }

  /** @throws Refusal where there is no such run, or it or its shoot lies in the bin. */
  async runRow(runId: number): Promise<Run> {
    const run = await this.db.selectFrom('run').selectAll().where('id', '=', runId).where('binned_at', 'is', null).executeTakeFirst()
    if (!run) throw refusal('run.gone')
    await this.shoot(run.shoot_id)
    return run
  }

  /** @throws Refusal where there is no such frame, or it lies in the bin. */
  async frameRow(frameId: number): Promise<Frame> {
    const frame = await this.db.selectFrom('frame').selectAll().where('id', '=', frameId).where('binned_at', 'is', null).executeTakeFirst()
    if (!frame) throw refusal('frame.gone')
    return frame
  }

  /** Sets a frame aside (true), restores it (false), or leaves it to the survey again (null). */
  async setAside(frameId: number, aside: boolean | null): Promise<void> {
    await this.frameRow(frameId)
    await this.db
      .updateTable('frame')
      .set({ aside: aside === null ? null : Number(aside) })
      .where('id', '=', frameId)
      .execute()
  }

  /** Begins a run, which keeps plan and kit as they are now. */
  async addRun(shootId: number, source: Run['source'], begunBy: string | null = null): Promise<number> {
    await this.shoot(shootId)
    const kit_json = JSON.stringify(await this.kit.all())
    // Read and written in one go: two runs begun at once get two numbers.
    return this.db.transaction().execute(async (transaction) => {
      if (begunBy !== null) {
        const begun = await transaction
          .selectFrom('run')
          .select('id')
          .where('shoot_id', '=', shootId)
          .where('begun_by', '=', begunBy)
          .executeTakeFirst()
        if (begun) return begun.id
      }
      const { scene, plan_json, sheet_json } = await transaction.selectFrom('shoot').selectAll().where('id', '=', shootId).executeTakeFirstOrThrow()
      const run = { uid: randomUUID(), shoot_id: shootId, source, begun_by: begunBy, scene, plan_json, sheet_json, kit_json, created_at: now() }
      const { id } = await transaction
        .insertInto('run')
        .values({ ...run, number: await nextNumber(transaction, shootId) })
        .returning('id')
        .executeTakeFirstOrThrow()
      return id
    })
  }

  /** The run that an entry of the field log began, made where there is none yet; and the number of its next frame. */
  async fieldRun(shootId: number, begunBy: string): Promise<{ id: number; next: number }> {
    const id = await this.addRun(shootId, 'simulated', begunBy)
    const frames = await this.db.selectFrom('frame').select('name').where('run_id', '=', id).execute()
    // Not their count: some may have been split off into a run of their own.
    return { id, next: 1 + Math.max(0, ...frames.map(({ name }) => Number(/\d+/.exec(name)?.[0] ?? 0))) }
  }

  /** Has the raw frames of a run developed as one of them was shot. @throws Refusal where that frame is not of this run. */
  async developLike(runId: number, frameId: number, neutral?: NeutralPlace): Promise<void> {
    await this.runRow(runId)
    const frame = await this.frameRow(frameId)
    if (frame.run_id !== runId) throw refusal('frame.gone')
    await this.store.raw.developLike(frame, neutral)
  }

  /** Puts the frames of a run back into the one before it; answers that. @throws Refusal where that cannot be. */
  async join(runId: number): Promise<number> {
    return joinRun(this.db, this.store.folders, await this.runRow(runId))
  }

  /** Makes every capture of a run a frame of its own again. @throws Refusal where pictures were made of it. */
  async takeCapturesApart(runId: number): Promise<void> {
    await this.runRow(runId)
    await takeCapturesApart(this.db, runId)
  }
}

export function jobDetail(job: Job): JobDetail {
  const { id, shoot_id, run_id, render_id, kind, state, error, error_code, created_at, ended_at, progress_json, result_json } = job
  return {
    ...{ id, shoot_id, run_id, render_id, kind, state, error, error_code, created_at, ended_at },
    progress: progress_json ? JSON.parse(progress_json) : null,
    result: result_json ? JSON.parse(result_json) : null,
  }
}

function rowOf({ title, subject, scene, plan, sheet }: ShootRequest) {
  return { title, subject, scene, plan_json: JSON.stringify(plan), sheet_json: sheet ? JSON.stringify(sheet) : null, changed_at: now() }
}

/** Numbers of runs in the bin are not given again. */
async function nextNumber(db: Transaction<Tables>, shootId: number): Promise<number> {
  const last = await db
    .selectFrom('run')
    .select((e) => e.fn.max('number').as('number'))
    .where('shoot_id', '=', shootId)
    .executeTakeFirst()
  return Number(last?.number ?? 0) + 1
}
