import { sql, type Kysely } from 'kysely'
import type { SurveyReport } from '@/core/survey'
import type { Frame, Tables } from '@/database'
import { storedSurvey } from '@/schemas'

/** The frames of a run that are not in the bin, by their names. */
export async function framesOfRun(db: Kysely<Tables>, runId: number): Promise<Frame[]> {
  const frames = await db.selectFrom('frame').selectAll().where('run_id', '=', runId).where('binned_at', 'is', null).execute()
  const byName = new Intl.Collator('en', { numeric: true })
  return frames.sort((a, b) => byName.compare(a.name, b.name) || a.id - b.id)
}

/** The frames of a run that are fused, in focus order: as its survey says, unless set aside or restored by hand. */
export async function framesToFuse(db: Kysely<Tables>, runId: number): Promise<Frame[]> {
  const run = await db.selectFrom('run').select('survey_json').where('id', '=', runId).executeTakeFirst()
  return usedFrames(await framesOfRun(db, runId), run?.survey_json ? storedSurvey(run.survey_json) : null)
}

/** Whether a frame is fused: as the hand said, else as the survey did; one that no survey knows of is. */
function isUsed(aside: number | null, role: string | undefined): boolean {
  return aside === null ? role === undefined || role === 'use' : aside === 0
}

/** How many frames of a run are fused, without putting them in order. */
export async function countToFuse(db: Kysely<Tables>, runId: number): Promise<number> {
  const file = sql<string>`json_extract(value, '$.file')`
  const role = sql<string>`json_extract(value, '$.role')`
  const { rows } = await sql<{ file: string; role: string }>`
    select ${file} as file, ${role} as role from run, json_each(run.survey_json, '$.frames') where run.id = ${runId}`.execute(db)
  const roles = new Map(rows.map((row) => [row.file, row.role]))
  const frames = await db.selectFrom('frame').select(['name', 'aside']).where('run_id', '=', runId).where('binned_at', 'is', null).execute()
  return frames.filter(({ name, aside }) => isUsed(aside, roles.get(name))).length
}

/** Of frames in the order of their names those that are fused, in focus order. */
export function usedFrames(frames: Frame[], survey: SurveyReport | null): Frame[] {
  const surveyed = survey?.frames ?? []
  const place = new Map(surveyed.map(({ file }, k) => [file, k]))
  const roles = new Map(surveyed.map(({ file, role }) => [file, role]))
  return frames
    .filter(({ name, aside }) => isUsed(aside, roles.get(name)))
    .sort((a, b) => (place.get(a.name) ?? Infinity) - (place.get(b.name) ?? Infinity) || frames.indexOf(a) - frames.indexOf(b))
}
