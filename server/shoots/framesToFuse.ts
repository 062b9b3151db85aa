import type { SurveyReport } from '@/core/survey'
import type { Database } from '../database'

/** The frames of a run that are fused, in focus order: as its survey says, unless set aside or restored by hand. */
export async function framesToFuse(db: Database, runId: number): Promise<string[]> {
  const run = await db.selectFrom('run').select('survey_json').where('id', '=', runId).executeTakeFirst()
  const frames = await db.selectFrom('frame').select(['name', 'aside']).where('run_id', '=', runId).execute()
  const byName = new Intl.Collator('en', { numeric: true })
  const surveyed = run?.survey_json ? (JSON.parse(run.survey_json) as SurveyReport).frames : []
  const place = new Map(surveyed.map(({ file }, k) => [file, k]))
  const used = new Set(surveyed.filter(({ role }) => role === 'use').map(({ file }) => file))
  return frames
    .filter(({ name, aside }) => (aside === null ? surveyed.length === 0 || used.has(name) || !place.has(name) : aside === 0))
    .sort((a, b) => (place.get(a.name) ?? Infinity) - (place.get(b.name) ?? Infinity) || byName.compare(a.name, b.name))
    .map(({ name }) => name)
}
