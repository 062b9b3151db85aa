import { readFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { planSeries } from '@/core/plan'
import { againstPlan, type SurveyReport } from '@/core/survey'
import { refusal } from '@/core/words'
import type { Database, Run } from '@/database'
import { storedPlan, storedSurvey } from '@/schemas'
import { framesOfRun } from '../../shoots/framesToFuse'
import type { JobKindWork } from '../kind'

interface Settings {
  /** Frames that were there when the survey was begun. */
  frames?: number[]
}

/** Surveys all frames of a run and keeps what it found with the run, unless other frames came meanwhile. */
export const survey: JobKindWork<'survey', Settings> = {
  lane: 'look',
  settings: Joi.object<Settings>({ frames: Joi.array().items(Joi.number().integer()) }),
  prepare: async ({ db, store, job, settings, scratch }) => {
    const run = await runOf(db, job.run_id!)
    const frames = await framesOfRun(db, run.id)
    settings.frames = frames.map(({ id }) => id)
    // The stand-in has what the plan says; for brought frames the plan is what was meant, no more.
    const plan = storedPlan(run.plan_json)
    return {
      kind: 'survey',
      frames: await Promise.all(frames.map((frame) => store.smallOf(frame))),
      ...(run.source === 'simulated' && plan && { mover: plan.mover.kind }),
      report: path.join(scratch, 'survey.json'),
    }
  },
  finish: async ({ db, job, settings, scratch }) => {
    const run = await runOf(db, job.run_id!)
    const found = storedSurvey(await readFile(path.join(scratch, 'survey.json'), 'utf8'))
    const kept = run.source === 'simulated' ? await besidePlan(db, run, found) : found
    const now = (await framesOfRun(db, run.id)).map(({ id }) => id)
    if (now.join() === settings.frames?.join())
      await db
        .updateTable('run')
        .set({ survey_json: JSON.stringify(kept) })
        .where('id', '=', run.id)
        .execute()
    return kept
  },
}

/** Where the stand-in knows where its focus was, the plan that it was given is asked as well. */
async function besidePlan(db: Database, run: Run, found: SurveyReport): Promise<SurveyReport> {
  const request = storedPlan(run.plan_json)
  if (!request) return found
  const frames = await framesOfRun(db, run.id)
  const positions = new Map(frames.flatMap(({ name, position_mm }) => (position_mm === null ? [] : [[name, position_mm] as const])))
  return againstPlan(found, positions, planSeries(request), request.subject.kind === 'range' ? request.subject.near_mm : 0)
}

async function runOf(db: Database, id: number): Promise<Run> {
  const run = await db.selectFrom('run').selectAll().where('id', '=', id).where('binned_at', 'is', null).executeTakeFirst()
  if (!run) throw refusal('run.gone')
  return run
}
