import type { Shelf } from '@/core/kit'
import type { JobKind, JobState } from '@/schemas'
import type { Generated, Selectable } from 'kysely'

/**
 * Times are ISO 8601 in UTC; `_json` columns hold JSON text and are read through `stored.ts`. A `uid` names a record in every
 * data folder it comes to; `binned_at` says since when it lies in the bin, null where it does not.
 */
export interface Tables {
  shoot: ShootTable
  run: RunTable
  frame: FrameTable
  capture: CaptureTable
  import: ImportTable
  job: JobTable
  render: RenderTable
  kit_item: KitItemTable
  field_entry: FieldEntryTable
  mend: MendTable
  recipe: RecipeTable
  development: DevelopmentTable
  mend_edit: MendEditTable
  practice_try: PracticeTryTable
}

interface ShootTable {
  id: Generated<number>
  uid: string
  title: string
  subject: string
  /** Name of the simulated scene that the stand-in camera sees. */
  scene: string
  /** `null` in JSON where nothing is planned yet. */
  plan_json: string
  /** What stood in the plan's fields; null where the plan came from elsewhere. */
  sheet_json: string | null
  created_at: string
  /** When its plan or its words were last changed. */
  changed_at: string
  binned_at: string | null
}

interface RunTable {
  id: Generated<number>
  uid: string
  shoot_id: number
  number: number
  source: 'simulated' | 'imported'
  /** Scene, plan, sheet and kit as they were when the run began: it is surveyed and measured by these, whatever is planned later. */
  scene: string
  plan_json: string
  sheet_json: string | null
  kit_json: string
  /** The newest survey of all its frames; null where there is none, or frames came after it. */
  survey_json: string | null
  /** How its raw frames are developed; null where it has none. */
  development_json: Generated<string | null>
  /** How many of its frames are fused; null until it is counted again after a change. */
  used_count: Generated<number | null>
  /** Why it was split off another run; null where it was not. */
  reason: string | null
  /** What the photographer notes of it: 0 to 5 stars, words, and tags as a JSON list. */
  stars: Generated<number>
  note: Generated<string>
  tags_json: Generated<string>
  /** Entry of the field log that began it, empty for the log's first run; null where no log tells of it. */
  begun_by: string | null
  created_at: string
  binned_at: string | null
}

interface FrameTable {
  id: Generated<number>
  uid: string
  run_id: number
  /** What the photographer's file was called. */
  name: string
  /** What it is stored as, in the folder of the run's frames. */
  file: string
  sha256: string
  bytes: number
  width: number
  height: number
  bits: number
  /** Colour model and profile, as `StoredColour`; null in rows that an older version made. */
  colour_json: string | null
  exif_json: string | null
  position_mm: number | null
  /** 1 set aside by hand, 0 restored by hand, null as the survey says. */
  aside: number | null
  created_at: string
  binned_at: string | null
  /** What its other captures take, where it was captured several times with a shifted sensor. */
  captures_bytes: Generated<number>
}

/** A capture of a frame beside the first, which is the frame's own file: a file in the same folder. */
interface CaptureTable {
  id: Generated<number>
  uid: string
  frame_id: number
  name: string
  file: string
  sha256: string
  bytes: number
  /** Where the sensor stood, px from the first capture. */
  x_px: number
  y_px: number
  exif_json: string | null
  created_at: string
}

/** A folder that is being imported into a run. */
interface ImportTable {
  run_id: number
  folder: string
  /** 1 while it rests. */
  paused: Generated<number>
  begun_at: string
}

interface JobTable {
  id: Generated<number>
  kind: JobKind
  /** What it is about; all null for one about everything. */
  shoot_id: number | null
  run_id: number | null
  render_id: number | null
  state: JobState
  settings_json: string
  progress_json: string | null
  /** What it found, for kinds that answer something. */
  result_json: string | null
  error: string | null
  error_code: string | null
  created_at: string
  ended_at: string | null
}

interface RenderTable {
  id: Generated<number>
  uid: string
  run_id: number
  job_id: number | null
  /** Name of its folder under `renders`. */
  folder: string
  report_json: string
  /** How many of its frames were needed; null where that was not asked. */
  needed_json: Generated<string | null>
  bytes: number
  created_at: string
  binned_at: string | null
}

interface KitItemTable {
  id: Generated<number>
  uid: string
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

/** What is to be changed in a render. */
interface MendTable {
  id: Generated<number>
  uid: string
  render_id: number
  title: string
  /** What is painted on, as `MendBase`. */
  base_json: string
  created_at: string
}

/** One edit; they are only ever added. */
interface MendEditTable {
  /** The order in which they came. */
  number: Generated<number>
  mend_id: number
  /** Chosen where the edit was made. */
  id: string
  edit_json: string
  created_at: string
}

/** A recipe under a name. */
interface RecipeTable {
  id: Generated<number>
  uid: string
  name: string
  recipe_json: string
  created_at: string
}

/** What a render is being finished by. */
interface DevelopmentTable {
  render_id: number
  recipe_json: string
  changed_at: string
}

/** A try at an exercise, and how well it went, 0 … 100. */
interface PracticeTryTable {
  id: Generated<number>
  uid: string
  exercise: string
  level: number
  seed: number
  percent: number
  took_s: number
  created_at: string
}

export type Mend = Selectable<MendTable>
export type Shoot = Selectable<ShootTable>
export type Run = Selectable<RunTable>
export type Frame = Selectable<FrameTable>
export type Capture = Selectable<CaptureTable>
export type Job = Selectable<JobTable>
export type Render = Selectable<RenderTable>
