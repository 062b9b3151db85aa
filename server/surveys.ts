import { mkdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import PQueue from 'p-queue'
import { completePlanRequest, InputError } from '@/schemas'
import { planSeries } from '@/core/plan'
import { againstPlan, type SurveyReport } from '@/core/survey'
import type { Database } from './database'
import type { Environment } from './environment'
import { runEngine } from './jobs'
import type { PictureStore } from './pictures'

/** The surveys of runs, one at a time, in child processes like all heavy work. */
export class Surveys {
  private readonly queue = new PQueue({ concurrency: 1 })

  constructor(
    private readonly db: Database,
    private readonly environment: Environment,
    private readonly store: PictureStore,
  ) {}

  /**
   * Surveys all frames of a run and keeps what it found with the run.
   * @throws InputError where the run is gone, has too few frames, or the engine ends with a sentence.
   */
  async make(runId: number): Promise<SurveyReport> {
    return this.queue.add(() => this.survey(runId)) as Promise<SurveyReport>
  }

  private async survey(runId: number): Promise<SurveyReport> {
    const run = await this.db
      .selectFrom('run')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .select(['run.source', 'shoot.plan_json'])
      .where('run.id', '=', runId)
      .executeTakeFirst()
    if (!run) throw new InputError('This run does not exist any more; go back to the shoot.')
    const before = await this.frameCount(runId)
    const scratch = this.store.folders.survey(runId)
    await mkdir(scratch, { recursive: true })
    try {
      const report = path.join(scratch, 'survey.json')
      // Frames of one's own may have been moved otherwise than planned; what the stand-in did is known.
      const request = completePlanRequest(JSON.parse(run.plan_json))
      const mover = run.source === 'simulated' ? ['--mover', request.mover.kind] : []
      const end = await runEngine(
        this.environment.engine,
        ['survey', this.store.folders.frames(runId), '--report', report, ...mover],
        () => undefined,
        new AbortController().signal,
      )
      if (end.kind === 'failed') throw new InputError(end.sentence)
      const found = JSON.parse(await readFile(report, 'utf8')) as SurveyReport
      const survey =
        run.source === 'simulated'
          ? againstPlan(found, await this.positions(runId), planSeries(request), request.subject.kind === 'range' ? request.subject.near_mm : 0)
          : found
      if ((await this.frameCount(runId)) === before)
        await this.db
          .updateTable('run')
          .set({ survey_json: JSON.stringify(survey) })
          .where('id', '=', runId)
          .execute()
      return survey
    } finally {
      await rm(scratch, { recursive: true, force: true })
    }
  }

  private async positions(runId: number): Promise<Map<string, number>> {
    const frames = await this.db.selectFrom('frame').select(['name', 'position_mm']).where('run_id', '=', runId).execute()
    return new Map(frames.flatMap(({ name, position_mm }) => (position_mm === null ? [] : [[name, position_mm]])))
  }

  private async frameCount(runId: number): Promise<number> {
    const { count } = await this.db
      .selectFrom('frame')
      .select((e) => e.fn.countAll<number>().as('count'))
      .where('run_id', '=', runId)
      .executeTakeFirstOrThrow()
    return Number(count)
  }
}
