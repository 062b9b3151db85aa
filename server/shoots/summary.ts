import { sql } from 'kysely'
import { planSeries } from '@/core/plan'
import { isRefusal } from '@/core/words'
import type { Database, Shoot } from '@/database'
import { storedPlan, type ShootSummary } from '@/schemas'
import { framesToFuse } from './framesToFuse'

/** A shoot as the list shows it. Runs, frames and renders in the bin do not count. */
export async function summaryOf(db: Database, shoot: Shoot): Promise<ShootSummary> {
  const frames = await db
    .selectFrom('frame')
    .innerJoin('run', 'run.id', 'frame.run_id')
    .where('run.shoot_id', '=', shoot.id)
    .where('run.binned_at', 'is', null)
    .where('frame.binned_at', 'is', null)
    .select(['frame.id', 'frame.run_id', 'frame.created_at'])
    .orderBy('frame.id')
    .execute()
  const render = await db
    .selectFrom('render')
    .innerJoin('run', 'run.id', 'render.run_id')
    .where('run.shoot_id', '=', shoot.id)
    .where('run.binned_at', 'is', null)
    .where('render.binned_at', 'is', null)
    .select(['render.id', 'render.created_at'])
    .orderBy('render.id', 'desc')
    .executeTakeFirst()
  const field = await inTheField(db, shoot.id)
  const middle = frames[frames.length >> 1]
  const changes = [shoot.changed_at, shoot.created_at, frames.at(-1)?.created_at, render?.created_at, field.at]
  return {
    id: shoot.id,
    title: shoot.title,
    subject: shoot.subject,
    state: render ? 'fused' : frames.length > 0 || field.taken > 0 ? 'shot' : 'planned',
    created_at: shoot.created_at,
    changed_at: changes.reduce<string>((last, at) => (at && at > last ? at : last), ''),
    frameCount: frames.length,
    usedCount: await usedOf(db, [...new Set(frames.map(({ run_id }) => run_id))]),
    fieldCount: field.taken,
    cover: render ? { kind: 'render', id: render.id } : middle ? { kind: 'frame', id: middle.id } : null,
    ...planOf(shoot),
  }
}

/** How many frames the field log tells of, by its ticks, and when it was last added to. */
async function inTheField(db: Database, shootId: number): Promise<{ taken: number; at: string | null }> {
  const kind = sql<string>`json_extract(event_json, '$.kind')`
  const row = await db
    .selectFrom('field_entry')
    .where('shoot_id', '=', shootId)
    .select((e) => [
      e.fn.max('at').as('at'),
      sql<number>`sum(case ${kind} when 'taken' then 1 when 'filled' then 1 when 'bracketed' then json_extract(event_json, '$.frames')
        when 'undone' then -1 when 'cleared' then -1 else 0 end)`.as('taken'),
    ])
    .executeTakeFirst()
  return { taken: Math.max(0, Number(row?.taken ?? 0)), at: row?.at ?? null }
}

async function usedOf(db: Database, runs: number[]): Promise<number> {
  const used = await Promise.all(runs.map((run) => framesToFuse(db, run)))
  return used.reduce((sum, { length }) => sum + length, 0)
}

/** The plan of a shoot, where there is one that can still be planned. */
function planOf(shoot: Shoot): Pick<ShootSummary, 'plan' | 'planned'> {
  try {
    const request = storedPlan(shoot.plan_json)
    return { plan: request && planSeries(request), planned: request !== null }
  } catch (error) {
    if (isRefusal(error)) return { plan: null, planned: true }
    throw error
  }
}
