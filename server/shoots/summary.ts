import { sql } from 'kysely'
import { planSeries } from '@/core/plan'
import { isRefusal } from '@/core/words'
import { explained, type Database } from '@/database'
import { storedPlan, type ShootSummary } from '@/schemas'
import { countToFuse } from './framesToFuse'

/** What a table tells of a shoot: how many rows, and when the newest came. */
interface Counted {
  count: number
  newest_at: string | null
}

interface ShotFrames extends Counted {
  /** Numbers of the first and last of them. */
  first: number
  last: number
}

/** A shoot without its picture and plan: what a list is searched and sorted by. */
export interface Outline extends Omit<ShootSummary, 'cover' | 'plan' | 'planned'> {
  shot: ShotFrames | undefined
  /** The newest render. */
  render: number | undefined
}

/** Outlines of all shoots that are not in the bin, or of one. Runs, frames and renders in the bin do not count. */
export async function outlinesOf(db: Database, only?: number): Promise<Outline[]> {
  const shoots = await db
    .selectFrom('shoot')
    .select(['id', 'title', 'subject', 'created_at', 'changed_at'])
    .where('binned_at', 'is', null)
    .$if(only !== undefined, (query) => query.where('id', '=', only!))
    .execute()
  // One question a table, however many shoots there are.
  const [frames, renders, used, field] = [await framesBy(db, only), await rendersBy(db, only), await usedBy(db, only), await fieldBy(db, only)]
  return shoots.map(({ id, title, subject, created_at, changed_at }) => {
    const shot = frames.get(id)
    const render = renders.get(id)
    const fieldCount = field.get(id) ?? 0
    const changes = [changed_at, created_at, shot?.newest_at, render?.newest_at]
    return {
      ...{ id, title, subject, created_at, fieldCount, shot },
      state: render ? ('fused' as const) : shot || fieldCount > 0 ? ('shot' as const) : ('planned' as const),
      changed_at: changes.reduce<string>((last, at) => (at && at > last ? at : last), ''),
      frameCount: shot?.count ?? 0,
      usedCount: used.get(id) ?? 0,
      render: render?.id,
    }
  })
}

/** Shoots as a list shows them, in the order of their outlines. */
export async function summariesOf(db: Database, outlines: Outline[]): Promise<ShootSummary[]> {
  const covers = await middleFrames(
    db,
    outlines.flatMap(({ id, shot, render }) => (shot && render === undefined ? [[id, shot] as const] : [])),
  )
  const ids = outlines.map(({ id }) => id)
  const rows = await db.selectFrom('shoot').select(['id', 'plan_json']).where('id', 'in', ids).execute()
  const plans = new Map(rows.map(({ id, plan_json }) => [id, plan_json]))
  return outlines.map(({ shot: _, render, ...outline }) => {
    const plan_json = plans.get(outline.id) ?? 'null'
    return {
      ...outline,
      cover: render === undefined ? (covers.get(outline.id) ?? null) : { kind: 'render', id: render },
      // What was planned is shown until there is something to show.
      plan: outline.state === 'planned' ? planOf(plan_json) : null,
      planned: plan_json !== 'null',
    }
  })
}

/** Frames that are neither in the bin themselves nor in a run that is. */
async function framesBy(db: Database, only?: number): Promise<Map<number, ShotFrames>> {
  const rows = await db
    .selectFrom('run')
    .innerJoin('frame', 'frame.run_id', 'run.id')
    .where('run.binned_at', 'is', null)
    .where('frame.binned_at', 'is', null)
    .$if(only !== undefined, (query) => query.where('run.shoot_id', '=', only!))
    .select((e) => [
      'run.shoot_id',
      e.fn.countAll<number>().as('count'),
      e.fn.max('frame.created_at').as('newest_at'),
      e.fn.min<number>('frame.id').as('first'),
      e.fn.max<number>('frame.id').as('last'),
    ])
    .groupBy('run.shoot_id')
    .execute()
  return new Map(rows.map(({ shoot_id, ...of }) => [shoot_id, { ...of, count: Number(of.count) }]))
}

async function rendersBy(db: Database, only?: number): Promise<Map<number, Counted & { id: number }>> {
  const rows = await db
    .selectFrom('run')
    .innerJoin('render', 'render.run_id', 'run.id')
    .where('run.binned_at', 'is', null)
    .where('render.binned_at', 'is', null)
    .$if(only !== undefined, (query) => query.where('run.shoot_id', '=', only!))
    .select((e) => [
      'run.shoot_id',
      e.fn.countAll<number>().as('count'),
      e.fn.max<number>('render.id').as('id'),
      e.fn.max('render.created_at').as('newest_at'),
    ])
    .groupBy('run.shoot_id')
    .execute()
  return new Map(rows.map(({ shoot_id, count, id, newest_at }) => [shoot_id, { count: Number(count), id, newest_at }]))
}

/** How many frames would be fused, of each shoot. */
async function usedBy(db: Database, only?: number): Promise<Map<number, number>> {
  const fresh = await countUsed(db)
  const runs = await db
    .selectFrom('run')
    .where('binned_at', 'is', null)
    .$if(only !== undefined, (query) => query.where('shoot_id', '=', only!))
    .select((e) => ['shoot_id', e.fn.sum<number | null>('used_count').as('used')])
    .groupBy('shoot_id')
    .execute()
  const used = new Map(runs.map(({ shoot_id, used }) => [shoot_id, Number(used ?? 0)]))
  for (const { shoot_id, count } of fresh) used.set(shoot_id, (used.get(shoot_id) ?? 0) + count)
  return used
}

/** How many frames the field log tells of, by its ticks. */
async function fieldBy(db: Database, only?: number): Promise<Map<number, number>> {
  const kind = sql<string>`json_extract(event_json, '$.kind')`
  const rows = await db
    .selectFrom('field_entry')
    .$if(only !== undefined, (query) => query.where('shoot_id', '=', only!))
    .select([
      'shoot_id',
      sql<number>`sum(case ${kind} when 'taken' then 1 when 'filled' then 1 when 'bracketed' then json_extract(event_json, '$.frames')
        when 'undone' then -1 when 'cleared' then -1 else 0 end)`.as('count'),
    ])
    .groupBy('shoot_id')
    .execute()
  return new Map(rows.map(({ shoot_id, count }) => [shoot_id, Math.max(0, Number(count ?? 0))]))
}

/** Counts what is fused of each run that changed since it was last counted, and keeps it; answers what could not be kept. */
async function countUsed(db: Database): Promise<{ shoot_id: number; count: number }[]> {
  const changedIn = (from: Database) =>
    from.selectFrom('run').select(['id', 'shoot_id']).where('used_count', 'is', null).where('binned_at', 'is', null)
  if (!(await changedIn(db).executeTakeFirst())) return []
  const counted: { id: number; shoot_id: number; count: number }[] = []
  try {
    await db.transaction().execute(async (transaction) => {
      for (const { id, shoot_id } of await changedIn(transaction).execute()) {
        try {
          counted.push({ id, shoot_id, count: await countToFuse(transaction, id) })
        } catch (error) {
          // A survey that is damaged is told of where its run is opened; the list of all shoots is not lost for it.
          if (!/malformed JSON/i.test((error as Error).message)) throw error
        }
      }
      for (const { id, count } of counted) await transaction.updateTable('run').set({ used_count: count }).where('id', '=', id).execute()
    })
    return []
  } catch (error) {
    // A disk that is full keeps nobody from looking at what is there.
    const known = explained(error)
    if (isRefusal(known) && known.code === 'disk.full') return counted
    throw error
  }
}

/** Of shoots without a render the frame in the middle, to show. */
async function middleFrames(db: Database, shoots: (readonly [shootId: number, frames: ShotFrames])[]): Promise<Map<number, ShootSummary['cover']>> {
  const frames = db
    .selectFrom('frame')
    .innerJoin('run', 'run.id', 'frame.run_id')
    .where('run.binned_at', 'is', null)
    .where('frame.binned_at', 'is', null)
    .select(['frame.id', 'frame.uid', 'run.shoot_id'])
  const covers = new Map<number, ShootSummary['cover']>()
  // Frames of a shoot are numbered one after the other where nothing came between.
  const middles = shoots.map(([, { first, last }]) => (first + last + 1) >> 1)
  for (let k = 0; k < middles.length; k += AT_ONCE)
    for (const { id, uid, shoot_id } of await frames.where('frame.id', 'in', middles.slice(k, k + AT_ONCE)).execute())
      covers.set(shoot_id, { kind: 'frame', id, uid })
  for (const [shootId, { count }] of shoots) {
    if (covers.has(shootId)) continue
    const frame = await frames
      .where('run.shoot_id', '=', shootId)
      .orderBy('frame.id')
      .offset(count >> 1)
      .limit(1)
      .executeTakeFirst()
    if (frame) covers.set(shootId, { kind: 'frame', id: frame.id, uid: frame.uid })
  }
  return covers
}

/** As many numbers go into one question. */
const AT_ONCE = 500

/** Plans as they were asked for, with what a list tells of them: a plan is not reckoned anew for each list. */
const planned = new Map<string, ShootSummary['plan']>()
const MOST_PLANNED = 5000

/** The plan of a shoot in short, where there is one that can still be planned. */
function planOf(plan_json: string): ShootSummary['plan'] {
  const known = planned.get(plan_json)
  const plan = known === undefined ? planInShort(plan_json) : known
  if (planned.size >= MOST_PLANNED) planned.clear()
  planned.set(plan_json, plan)
  return plan
}

function planInShort(plan_json: string): ShootSummary['plan'] {
  try {
    const request = storedPlan(plan_json)
    if (!request) return null
    const { frameCount, stride_mm, hyperfocal_mm } = planSeries(request)
    return { frameCount, stride_mm, ...(hyperfocal_mm !== undefined && { hyperfocal_mm }) }
  } catch (error) {
    if (isRefusal(error)) return null
    throw error
  }
}
