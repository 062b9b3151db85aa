import type { Kysely } from 'kysely'
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
  const surveyed = run?.survey_json ? storedSurvey(run.survey_json).frames : []
  const place = new Map(surveyed.map(({ file }, k) => [file, k]))
  const used = new Set(surveyed.filter(({ role }) => role === 'use').map(({ file }) => file))
  const frames = await framesOfRun(db, runId)
  return frames
    .filter(({ name, aside }) => (aside === null ? surveyed.length === 0 || used.has(name) || !place.has(name) : aside === 0))
    .sort((a, b) => (place.get(a.name) ?? Infinity) - (place.get(b.name) ?? Infinity) || frames.indexOf(a) - frames.indexOf(b))
}
