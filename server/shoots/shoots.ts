import { planSeries, type Plan, type PlanRequest } from '@/core/plan'
import type { PlanSheet } from '@/core/sheet'
import type { SurveyReport } from '@/core/survey'
import {
  completePlanRequest,
  InputError,
  type FrameExif,
  type FuseReport,
  type JobDetail,
  type RunDetail,
  type ShootDetail,
  type ShootRequest,
  type ShootSummary,
} from '@/schemas'
import { FieldLogs } from '../field'
import { now, type Database, type Job, type Run, type Shoot } from '../database'

/** The shoots of a database: what was planned, shot and fused. */
export class Shoots {
  constructor(private readonly db: Database) {}

  async list(): Promise<ShootSummary[]> {
    const shoots = await this.db.selectFrom('shoot').selectAll().orderBy('id', 'desc').execute()
    return Promise.all(shoots.map((shoot) => this.summary(shoot)))
  }

  async create({ title, subject, scene, plan, sheet }: ShootRequest): Promise<number> {
    const { id } = await this.db
      .insertInto('shoot')
      .values({ title, subject, scene, plan_json: JSON.stringify(plan), sheet_json: sheet ? JSON.stringify(sheet) : null, created_at: now() })
      .returning('id')
      .executeTakeFirstOrThrow()
    return id
  }

  async replan(shootId: number, { title, subject, scene, plan, sheet }: ShootRequest): Promise<void> {
    const { numUpdatedRows } = await this.db
      .updateTable('shoot')
      .set({ title, subject, scene, plan_json: JSON.stringify(plan), sheet_json: sheet ? JSON.stringify(sheet) : null })
      .where('id', '=', shootId)
      .executeTakeFirst()
    if (Number(numUpdatedRows) === 0) throw missing()
  }

  async detail(shootId: number): Promise<ShootDetail> {
    const shoot = await this.shoot(shootId)
    const summary = await this.summary(shoot)
    const runs = await this.db.selectFrom('run').selectAll().where('shoot_id', '=', shootId).orderBy('number', 'desc').execute()
    const jobs = await this.db.selectFrom('job').selectAll().where('shoot_id', '=', shootId).orderBy('id', 'desc').limit(20).execute()
    return {
      ...summary,
      scene: shoot.scene,
      planRequest: JSON.parse(shoot.plan_json) as PlanRequest,
      sheet: shoot.sheet_json ? (JSON.parse(shoot.sheet_json) as PlanSheet) : null,
      runs: await Promise.all(runs.map((run) => this.run(run))),
      jobs: jobs.map(jobDetail),
      field: await new FieldLogs(this.db).of(shootId),
    }
  }

  async shoot(shootId: number): Promise<Shoot> {
    const shoot = await this.db.selectFrom('shoot').selectAll().where('id', '=', shootId).executeTakeFirst()
    if (!shoot) throw missing()
    return shoot
  }

  async addRun(shootId: number, source: Run['source'], begunBy: string | null = null): Promise<number> {
    await this.shoot(shootId)
    const last = await this.db
      .selectFrom('run')
      .select((e) => e.fn.max('number').as('number'))
      .where('shoot_id', '=', shootId)
      .executeTakeFirst()
    const { id } = await this.db
      .insertInto('run')
      .values({ shoot_id: shootId, number: (last?.number ?? 0) + 1, source, begun_by: begunBy, created_at: now() })
      .returning('id')
      .executeTakeFirstOrThrow()
    return id
  }

  /** The run that an entry of the field log began, made where there is none yet; and the number of its next frame. */
  async fieldRun(shootId: number, begunBy: string): Promise<{ id: number; next: number }> {
    const run = await this.db.selectFrom('run').select('id').where('shoot_id', '=', shootId).where('begun_by', '=', begunBy).executeTakeFirst()
    if (!run) return { id: await this.addRun(shootId, 'simulated', begunBy), next: 1 }
    const frames = await this.db.selectFrom('frame').select('name').where('run_id', '=', run.id).execute()
    // Not their count: some may have been split off into a run of their own.
    return { id: run.id, next: 1 + Math.max(0, ...frames.map(({ name }) => Number(/\d+/.exec(name)?.[0] ?? 0))) }
  }

  private async run(run: Run): Promise<RunDetail> {
    const { shoot_id: _, survey_json, ...rest } = run
    const frames = await this.db.selectFrom('frame').selectAll().where('run_id', '=', run.id).execute()
    const renders = await this.db.selectFrom('render').selectAll().where('run_id', '=', run.id).orderBy('id', 'desc').execute()
    const byName = new Intl.Collator('en', { numeric: true })
    return {
      ...rest,
      frames: frames
        .sort((a, b) => byName.compare(a.name, b.name))
        .map(({ exif_json, run_id: _run, aside, ...frame }) => ({
          ...frame,
          aside: aside === null ? null : aside === 1,
          exif: exif_json ? (JSON.parse(exif_json) as FrameExif) : null,
        })),
      survey: survey_json ? (JSON.parse(survey_json) as SurveyReport) : null,
      renders: renders.map(({ id, created_at, bytes, report_json }) => ({ id, created_at, bytes, report: JSON.parse(report_json) as FuseReport })),
    }
  }

  private async summary(shoot: Shoot): Promise<ShootSummary> {
    const frames = await this.db
      .selectFrom('frame')
      .innerJoin('run', 'run.id', 'frame.run_id')
      .where('run.shoot_id', '=', shoot.id)
      .select('frame.id')
      .orderBy('frame.id')
      .execute()
    const render = await this.db
      .selectFrom('render')
      .innerJoin('run', 'run.id', 'render.run_id')
      .where('run.shoot_id', '=', shoot.id)
      .select('render.id')
      .orderBy('render.id', 'desc')
      .executeTakeFirst()
    const middle = frames[frames.length >> 1]
    return {
      id: shoot.id,
      title: shoot.title,
      subject: shoot.subject,
      state: render ? 'fused' : frames.length > 0 ? 'shot' : 'planned',
      created_at: shoot.created_at,
      frameCount: frames.length,
      cover: render ? { kind: 'render', id: render.id } : middle ? { kind: 'frame', id: middle.id } : null,
      plan: planOf(shoot),
    }
  }
}

export function jobDetail({ id, run_id, kind, state, error, created_at, ended_at, progress_json }: Job): JobDetail {
  return { id, run_id, kind, state, error, created_at, ended_at, progress: progress_json ? JSON.parse(progress_json) : null }
}

function planOf(shoot: Shoot): Plan | null {
  try {
    return planSeries(completePlanRequest(JSON.parse(shoot.plan_json)))
  } catch {
    return null
  }
}

function missing(): InputError {
  return new InputError('This shoot does not exist any more; go back to the list.')
}
