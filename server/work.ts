import { planSeries } from '@/core/plan'
import type { CameraFile, Fault } from '@/core/simulate'
import { refusal } from '@/core/words'
import type { Database, Job } from '@/database'
import { storedPlan, type FuseSettings, type TargetFile } from '@/schemas'
import { standingEdits } from '@/core/mend'
import type { Mends } from './mends'
import type { FinishRequest, JobQueue, TakeRequest } from './jobs'
import { renderOf } from './renders'
import { framesOfRun, framesToFuse, simulationOf, type Shoots } from './shoots'

/** Asks for heavy work: what can be refused at once is, the rest is a job. */
export class Work {
  constructor(
    private readonly db: Database,
    private readonly shoots: Shoots,
    private readonly jobs: JobQueue,
    private readonly mends: Mends,
  ) {}

  /** A run with the simulated camera, at the positions of the plan, with the faults that are switched on, as JPEGs or raw files. */
  async shoot(shootId: number, faults: Fault['kind'][], files: CameraFile = 'jpg'): Promise<Job> {
    const shoot = await this.shoots.shoot(shootId)
    const request = storedPlan(shoot.plan_json)
    if (!request) throw refusal('shoot.noPlan')
    // Every run of a shoot is unsteady in its own way.
    const { count } = await this.db
      .selectFrom('run')
      .select((e) => e.fn.countAll<number>().as('count'))
      .where('shoot_id', '=', shootId)
      .executeTakeFirstOrThrow()
    const settings = simulationOf(shoot.scene, request, planSeries(request), shootId * 101 + Number(count), faults)
    const runId = await this.shoots.addRun(shootId, 'simulated')
    return this.jobs.add('shoot', { shoot_id: shootId, run_id: runId }, { ...settings, files })
  }

  /** A render of the frames that a run has now, by number: whatever is set aside later, these are fused. */
  async fuse(runId: number, settings: FuseSettings): Promise<Job> {
    const run = await this.shoots.runRow(runId)
    const frames = await framesToFuse(this.db, runId)
    const count = frames.length
    if (count < 2) throw refusal('run.tooFew', { count })
    if (settings.reference && settings.reference > count) throw refusal('run.reference', { count })
    return this.jobs.add('fuse', { shoot_id: run.shoot_id, run_id: runId }, { ...settings, frames: frames.map(({ id }) => id) })
  }

  /** A mended picture of the edits that a mend has now. @throws Refusal where it has none. */
  async mend(mendId: number): Promise<Job> {
    const { render, document } = await this.mends.document(mendId)
    if (document.base === 'fused' && standingEdits(document.edits).length === 0) throw refusal('mend.nothing')
    const run = await this.shoots.runRow(render.run_id)
    return this.jobs.add('mend', { shoot_id: run.shoot_id, run_id: run.id, render_id: render.id }, { mend: mendId, document })
  }

  /** Goes through a render for places that are worth a look. */
  async inspect(renderId: number): Promise<Job> {
    const render = await renderOf(this.db, renderId)
    const run = await this.shoots.runRow(render.run_id)
    return this.jobs.add('inspect', { shoot_id: run.shoot_id, run_id: run.id, render_id: render.id }, {})
  }

  /** Finds out how many of a render's frames were needed. */
  async needed(renderId: number): Promise<Job> {
    const render = await renderOf(this.db, renderId)
    const run = await this.shoots.runRow(render.run_id)
    return this.jobs.add('needed', { shoot_id: run.shoot_id, run_id: run.id, render_id: render.id }, {})
  }

  /** Has something written to take along beside the picture. */
  async take(renderId: number, request: TakeRequest): Promise<Job> {
    const render = await renderOf(this.db, renderId)
    const run = await this.shoots.runRow(render.run_id)
    return this.jobs.add('take', { shoot_id: run.shoot_id, run_id: run.id, render_id: render.id }, request)
  }

  /** A render finished by a recipe and written in a format; `name` is what the recipe is called, where it has a name. */
  async finish(renderId: number, request: FinishRequest): Promise<Job> {
    const render = await renderOf(this.db, renderId)
    const run = await this.shoots.runRow(render.run_id)
    return this.jobs.add('finish', { shoot_id: run.shoot_id, run_id: run.id, render_id: render.id }, request)
  }

  async survey(runId: number): Promise<Job> {
    const run = await this.shoots.runRow(runId)
    const { length: count } = await framesOfRun(this.db, runId)
    if (count < 2) throw refusal('run.tooFew', { count })
    return this.jobs.add('survey', { shoot_id: run.shoot_id, run_id: runId }, {})
  }

  /** Measures focus from a run of the printed sheet. */
  async measure(runId: number, facts: TargetFile): Promise<Job> {
    const run = await this.shoots.runRow(runId)
    const { length: count } = await framesToFuse(this.db, runId)
    if (count < 2) throw refusal('run.tooFew', { count })
    return this.jobs.add('measure', { shoot_id: run.shoot_id, run_id: runId }, { facts })
  }

  /** Takes a run apart into its series. @throws Refusal while something else works on it. */
  async split(runId: number): Promise<Job> {
    const run = await this.shoots.runRow(runId)
    if (await this.jobs.busy({ run_id: runId })) throw refusal('run.busy')
    return this.jobs.add('split', { shoot_id: run.shoot_id, run_id: runId }, {})
  }

  /** An ended job once more with the same settings; a shoot gets a run of its own, so that no frame is overwritten. */
  async again(jobId: number): Promise<Job> {
    const job = await this.db.selectFrom('job').selectAll().where('id', '=', jobId).executeTakeFirst()
    if (!job) throw refusal('job.gone')
    if (job.state === 'queued' || job.state === 'running') throw refusal('job.notEnded')
    const { shoot_id, render_id } = job
    const run_id = job.kind === 'shoot' ? await this.shoots.addRun(shoot_id!, 'simulated') : job.run_id
    const subject = Object.fromEntries(Object.entries({ shoot_id, run_id, render_id }).filter(([, id]) => id !== null))
    return this.jobs.add(job.kind, subject, JSON.parse(job.settings_json))
  }
}
