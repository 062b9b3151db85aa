import type { Shelf } from '@/core/kit'
import type { JobKind, JobState } from '@/schemas'
import type { Generated, Selectable } from 'kysely'

/** Times are ISO 8601 in UTC; `_json` columns hold JSON text. */
export interface Tables {
  shoot: ShootTable
  run: RunTable
  frame: FrameTable
  job: JobTable
  render: RenderTable
  kit_item: KitItemTable
  field_entry: FieldEntryTable
}

interface ShootTable {
  id: Generated<number>
  title: string
  subject: string
  /** Name of the simulated scene that the stand-in camera sees. */
  scene: string
  plan_json: string
  /** What stood in the plan's fields; null where the plan came from elsewhere. */
  sheet_json: string | null
  created_at: string
}

interface RunTable {
  id: Generated<number>
  shoot_id: number
  number: number
  source: 'simulated' | 'imported'
  /** The newest survey of all its frames; null where there is none, or frames came after it. */
  survey_json: string | null
  /** Why it was split off another run; null where it was not. */
  reason: string | null
  /** Entry of the field log that began it, empty for the log's first run; null where no log tells of it. */
  begun_by: string | null
  created_at: string
}

interface FrameTable {
  id: Generated<number>
  run_id: number
  name: string
  sha256: string
  bytes: number
  width: number
  height: number
  bits: number
  exif_json: string | null
  position_mm: number | null
  /** 1 set aside by hand, 0 restored by hand, null as the survey says. */
  aside: number | null
  created_at: string
}

interface JobTable {
  id: Generated<number>
  shoot_id: number
  run_id: number
  kind: JobKind
  state: JobState
  settings_json: string
  progress_json: string | null
  error: string | null
  created_at: string
  ended_at: string | null
}

interface RenderTable {
  id: Generated<number>
  run_id: number
  job_id: number
  report_json: string
  bytes: number
  created_at: string
}

interface KitItemTable {
  id: Generated<number>
  shelf: Shelf
  name: string
  facts_json: string
}

interface FieldEntryTable {
  /** Chosen where the entry was made. */
  id: string
  shoot_id: number
  at: string
  event_json: string
}

export type Shoot = Selectable<ShootTable>
export type Run = Selectable<RunTable>
export type Frame = Selectable<FrameTable>
export type Job = Selectable<JobTable>
