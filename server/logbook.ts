import { sql } from 'kysely'
import { depthFound, strideOf, type LogEntry, type Stride } from '@/core/logbook'
import { movesCamera } from '@/core/movers'
import { magnificationAt, subjectDistance_mm } from '@/core/optics'
import { planSeries, strideByScale, type PlanRequest } from '@/core/plan'
import { isRefusal, refusal } from '@/core/words'
import { plainText, type Database, type Frame, type Run } from '@/database'
import {
  storedNeeded,
  storedPlan,
  storedReport,
  storedSheet,
  storedSurvey,
  storedTaken,
  type FuseReport,
  type LogPage,
  type LogQuery,
  type RunNotes,
} from '@/schemas'
import { usedFrames } from './shoots'

/** So many entries are handed out at a time. */
const PAGE = 50
/** And so many taken together for a file. */
const BATCH = 500

/** The logbook: every run with frames is an entry; notes are stored with the run. */
export class Logbook {
  constructor(private readonly db: Database) {}

  /** The entries that are asked for, the newest first, from a place on; and how many there are in all. */
  async page({ words, stars, from }: LogQuery): Promise<LogPage> {
    const runs = await this.found(words, stars)
    return { count: runs.length, entries: await this.entries(runs.slice(from, from + PAGE)) }
  }

  /** All entries, the newest first. */
  async all(): Promise<LogEntry[]> {
    const runs = await this.found('', 0)
    const entries: LogEntry[] = []
    for (let from = 0; from < runs.length; from += BATCH) entries.push(...(await this.entries(runs.slice(from, from + BATCH))))
    return entries
  }

  /** Stores the given notes of a run. @throws Refusal where it is gone. */
  async note(runId: number, { tags, ...words }: Partial<RunNotes>): Promise<void> {
    const { numUpdatedRows } = await this.db
      .updateTable('run')
      .set({ ...words, ...(tags && { tags_json: JSON.stringify(tags) }) })
      .where('id', '=', runId)
      .where('binned_at', 'is', null)
      .executeTakeFirst()
    if (Number(numUpdatedRows) === 0) throw refusal('run.gone')
  }

  /** Ids of runs with frames in which every word is found: in title, notes, tags, body or lens. */
  private async found(words: string, stars: number): Promise<number[]> {
    const text = sql<string>`plain(shoot.title || ' ' || shoot.subject || ' ' || run.note || ' ' || run.tags_json || ' ' ||
      case when json_valid(run.sheet_json) then coalesce(json_extract(run.sheet_json, '$.lens'), '') || ' ' ||
      coalesce(json_extract(run.sheet_json, '$.body'), '') else '' end)`
    let query = this.db
      .selectFrom('run')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .where('run.binned_at', 'is', null)
      .where('shoot.binned_at', 'is', null)
      .where('run.stars', '>=', stars)
      .where(sql<boolean>`exists (select 1 from frame where frame.run_id = run.id and frame.binned_at is null)`)
      .select('run.id')
      .orderBy('run.created_at', 'desc')
      .orderBy('run.id', 'desc')
    for (const word of plainText(words).split(/\s+/).filter(Boolean)) query = query.where(sql<boolean>`instr(${text}, ${word}) > 0`)
    return (await query.execute()).map(({ id }) => id)
  }

  private async entries(ids: number[]): Promise<LogEntry[]> {
    if (ids.length === 0) return []
    const { db } = this
    const runs = await db
      .selectFrom('run')
      .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
      .where('run.id', 'in', ids)
      .selectAll('run')
      .select('shoot.title')
      .execute()
    const frames = await db.selectFrom('frame').selectAll().where('run_id', 'in', ids).where('binned_at', 'is', null).orderBy('id').execute()
    const renders = await db
      .selectFrom('render')
      .where('run_id', 'in', ids)
      .where('binned_at', 'is', null)
      .select(['id', 'run_id', 'bytes', 'report_json', 'needed_json'])
      .orderBy('id', 'desc')
      .execute()
    const deliveries = await db
      .selectFrom('job')
      .where('run_id', 'in', ids)
      .where('kind', '=', 'finish')
      .where('state', '=', 'done')
      .select('run_id')
      .execute()
    const [framesOf, rendersOf, deliveriesOf] = [byRun(frames), byRun(renders), byRun(deliveries)]
    const entries = new Map(
      runs.map((run) => {
        const made = rendersOf.get(run.id) ?? []
        const asked = made.find(({ needed_json }) => needed_json !== null)?.needed_json
        const needed = asked ? known(() => storedNeeded(asked).fewest) : null
        const own = framesOf.get(run.id) ?? []
        const [newest] = made
        const report = newest && reportOf(newest.report_json)
        const request = known(() => storedPlan(run.plan_json))
        const taken = takenOf(run, own)
        return [
          run.id,
          {
            ...shotOf(run, request),
            ...taken,
            ...deepOf(taken.stride ?? (report && request ? scaledStride(report, request) : null), run, request),
            needed,
            moved_percent: report ? Math.max(0, ...report.frames.map(({ moved_percent = 0 }) => moved_percent)) : null,
            renders: made.length,
            render: newest?.id ?? null,
            style: report?.style ?? null,
            delivered: deliveriesOf.get(run.id)?.length ?? 0,
            bytes: [...own, ...made].reduce((sum, { bytes }) => sum + bytes, 0),
          },
        ]
      }),
    )
    return ids.flatMap((id) => entries.get(id) ?? [])
  }
}

function byRun<T extends { run_id: number | null }>(rows: T[]): Map<number | null, T[]> {
  const groups = new Map<number | null, T[]>()
  for (const row of rows) {
    const group = groups.get(row.run_id)
    if (group) group.push(row)
    else groups.set(row.run_id, [row])
  }
  return groups
}

/** What cannot be read is not known; the entry stays. */
function known<T>(read: () => T): T | null {
  try {
    return read()
  } catch (error) {
    if (isRefusal(error)) return null
    throw error
  }
}

const reportOf = (text: string) => known(() => storedReport(text))

/** Who, when, with what, and as planned. */
function shotOf(run: Run & { title: string }, request: PlanRequest | null) {
  const sheet = run.sheet_json ? known(() => storedSheet(run.sheet_json!)) : null
  const plan = request && known(() => planSeries(request))
  const optics = request?.optics
  return {
    run: run.id,
    shoot: run.shoot_id,
    number: run.number,
    title: run.title,
    at: run.created_at,
    source: run.source,
    body: sheet?.body || null,
    lens: sheet?.lens || null,
    fNumber: optics?.kind === 'lens' ? optics.fNumber : null,
    magnification: plan?.magnification ?? null,
    mover: request?.mover.kind ?? null,
    planned: plan && { frames: plan.frameCount, stride_mm: plan.stride_mm, overlap: plan.overlap },
    stars: run.stars,
    note: run.note,
    tags: JSON.parse(run.tags_json) as string[],
  }
}

/** The stride by the scale of the frames of a render. */
function scaledStride({ frames }: FuseReport, request: PlanRequest): Stride | null {
  const used = frames.filter(({ role }) => role !== 'left out')
  const found = strideByScale(used, request)
  if (!found) return null
  const { mean_mm, spread_mm, spreadKnown, steps, by } = found
  return { mean_mm, spread_mm, spreadKnown, steps, by }
}

/** The stride, and the depth of field that the run's survey tells with it. */
function deepOf(stride: Stride | null, { survey_json }: Run, request: PlanRequest | null): Pick<LogEntry, 'stride' | 'depthOfField'> {
  const blurStep = survey_json ? known(() => storedSurvey(survey_json))?.blurStep : undefined
  const plan = request && known(() => planSeries(request))
  if (!stride || !blurStep || !plan || request.optics.kind !== 'lens' || request.subject.kind !== 'depth') return { stride, depthOfField: null }
  const { focalLength_mm: f } = request.optics
  const near = plan.magnification
  // On a rail the focus stays at one distance.
  const far =
    movesCamera(request.mover.kind) || request.optics.attachment ? near : magnificationAt(f, subjectDistance_mm(f, near) + request.subject.depth_mm)
  return { stride, depthOfField: depthFound(blurStep, stride.mean_mm, plan, [near, far], request.camera.sensorWidth_mm) }
}

/** What was taken, and what its survey found. */
function takenOf(run: Run, frames: Frame[]) {
  const survey = run.survey_json ? known(() => storedSurvey(run.survey_json!)) : null
  const used = usedFrames(frames, survey)
  // The focus went on before a frame that was left out, too: without it one stride would seem twice as long.
  const dividers = new Set(survey?.frames.flatMap(({ file, role }) => (role === 'divider' ? [file] : [])))
  const moved = frames.filter(({ name }) => !dividers.has(name))
  const positions = moved.flatMap(({ position_mm }) => position_mm ?? [])
  const roles = survey?.frames.map(({ role }) => role) ?? []
  return {
    frames: frames.length,
    used: used.length,
    stride: positions.length === moved.length ? strideOf(positions) : null,
    frame_s: secondsEach(frames),
    exposure_ev: survey?.exposure.spread_ev ?? null,
    flawed: roles.filter((role) => role === 'flawed').length,
    idle: roles.filter((role) => role === 'idle').length,
    gaps: survey?.coverage.gaps.length ?? 0,
    complete: survey && survey.coverage.nearEnd === 'reached' && survey.coverage.farEnd === 'reached' && survey.coverage.gaps.length === 0,
  }
}

/** Seconds from frame to frame by what the files say, in whatever order they came; null where one does not. */
function secondsEach(frames: Frame[]): number | null {
  const times = frames.map(({ exif_json }) => Date.parse((exif_json && known(() => storedTaken(exif_json))?.taken_at) || ''))
  const seconds = (Math.max(...times) - Math.min(...times)) / 1000
  return seconds > 0 ? seconds / (frames.length - 1) : null
}
