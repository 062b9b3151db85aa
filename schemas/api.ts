import type { SplitReport } from './surveyReport'
import type { Recipe } from '@/core/finish'
import type { FieldEntry } from '@/core/field'
import type { LogEntry } from '@/core/logbook'
import type { Plan, PlanRequest } from '@/core/plan'
import type { MoverSetting, PlanSheet } from '@/core/sheet'
import type { SurveyReport } from '@/core/survey'
import type { TakenWith } from '@/core/formats'
import type { Place } from '@/core/inspect'
import type { MendBase, MendEdit } from '@/core/mend'
import type { RunDevelopment } from './development'
import type { CheckReport, JobFile } from './jobs'
import type { MeasuredTarget } from '@/core/learn/target'
import type { NeededReport } from './needed'
import type { FuseReport, ReportInShort } from './report'

/** What the routes answer, for the screens. Times are ISO 8601 in UTC. */

export type ShootState = 'planned' | 'shot' | 'fused'

export interface ShootSummary {
  id: number
  title: string
  subject: string
  state: ShootState
  created_at: string
  /** When anything of it last changed. */
  changed_at: string
  frameCount: number
  /** Of these, how many would be fused. */
  usedCount: number
  /** Frames in the field log; they may not be imported yet. */
  fieldCount: number
  /** Picture to show: the newest render, else a frame. */
  cover: { kind: 'render'; id: number } | { kind: 'frame'; id: number; uid: string } | null
  /** null where nothing is planned, or the plan no longer works; which, says `planned`. */
  plan: Pick<Plan, 'frameCount' | 'stride_mm' | 'hyperfocal_mm'> | null
  planned: boolean
}

/** A part of the list of shoots. */
export interface ShootPage {
  shoots: ShootSummary[]
  /** How many were found, and how many there are. */
  found: number
  all: number
}

export interface ShootDetail extends Omit<ShootSummary, 'plan' | 'planned'> {
  scene: string
  planRequest: PlanRequest | null
  /** What stood in the plan's fields, where it was planned on the screen. */
  sheet: PlanSheet | null
  runs: RunDetail[]
  jobs: JobDetail[]
  /** What happened in the field. */
  field: FieldEntry[]
}

export interface RunDetail {
  id: number
  number: number
  source: 'simulated' | 'imported'
  /** Why it was split off another run. */
  reason: string | null
  /** The plan it was shot by, whatever is planned now, and what stood in its fields. */
  planRequest: PlanRequest | null
  sheet: PlanSheet | null
  /** What the focus was to be moved by from frame to frame; null where that is set by eye. */
  setting: MoverSetting | null
  /** Entry of the field log that started the run, empty for the log's first run; null for a run in no log. */
  begun_by: string | null
  created_at: string
  frames: FrameDetail[]
  /** How its raw frames are developed; null where it has none. */
  development: RunDevelopment | null
  survey: SurveyReport | null
  renders: RenderInShort[]
}

export interface FrameDetail {
  id: number
  uid: string
  name: string
  sha256: string
  bytes: number
  width: number
  height: number
  bits: number
  /** How many captures it is merged from: more than one where the sensor was shifted between them. */
  captures: number
  exif: TakenWith | null
  /** Colour model and profile in words; null in frames of older versions. */
  colour: string | null
  /** Whether its file is there, as long as it should be. */
  here: boolean
  /** Plane of focus from the subject's near edge, where it is known. */
  position_mm: number | null
  /** Set aside (true) or restored (false) by hand; null as the survey says. */
  aside: boolean | null
  created_at: string
}

/** A render in a list, without its frames; its whole report has them. */
export interface RenderInShort {
  id: number
  uid: string
  created_at: string
  bytes: number
  report: ReportInShort
}

export interface RenderDetail extends Omit<RenderInShort, 'report'> {
  report: FuseReport
}

/** A part of the list of all renders, the newest first; and how many there are. */
export interface RenderPage {
  renders: (RenderInShort & { shootTitle: string })[]
  all: number
}

/** A mend with all its edits. */
export interface MendDetail {
  id: number
  title: string
  created_at: string
  base: MendBase
  /** In the order in which they came, undone ones included. */
  edits: MendEdit[]
}

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled' | 'interrupted'
export type JobKind = JobFile['kind']

export interface JobDetail {
  id: number
  shoot_id: number | null
  run_id: number | null
  render_id: number | null
  kind: JobKind
  state: JobState
  error: string | null
  error_code: string | null
  created_at: string
  ended_at: string | null
  /** `soFar` counts the previews written so far; absent before the first. `resting` until it is resumed. */
  progress: { stage: string; frame: number; of: number; file?: string; soFar?: number; resting?: true } | null
  /** What it answers, for kinds that answer something. */
  result: JobResults[JobKind] | null
}

/** A folder that frames are taken from as they come. */
export interface WatchDetail {
  folder: string
  /** The run that they enter. */
  run: number
  taken: number
  /** The newest that could not be taken, and why. */
  refused: { name: string; code: string; text: string }[]
  /** Why watching ended, if nobody ended it. */
  ended: { code: string; text: string } | null
}

/** A folder that is being imported, or was since the application began. */
export interface ImportDetail {
  folder: string
  /** The run that its frames enter. */
  run: number
  /** How many of its files are pictures, how many are in, and how many could not be taken. */
  total: number
  taken: number
  refusedCount: number
  /** The first that could not be taken, and why. */
  refused: { name: string; code: string; text: string }[]
  paused: boolean
  /** While it runs, once it can be estimated. */
  pace: { rate_MBps: number; left_s: number } | null
  /** How it ended. */
  ended: { code: string; text: string } | null
}

/** A part of the logbook, and how many entries there are in all. */
export interface LogPage {
  count: number
  entries: LogEntry[]
}

/** A recipe that is kept under a name. */
export interface RecipeDetail {
  id: number
  name: string
  recipe: Recipe
}

/** What jobs of each kind answer when they are done. */
export interface JobResults {
  shoot: null
  fuse: { render: number }
  inspect: { places: Place[] }
  needed: NeededReport
  mend: { render: number }
  finish: { name: string }
  take: { name: string }
  survey: SurveyReport
  split: Pick<SplitReport, 'series' | 'clock'>
  measure: MeasuredTarget
  check: CheckReport
  backup: { name: string; bytes: number }
  restore: { shoots: number; runs: number; frames: number; renders: number; kit: number; files: number }
}

/** What takes the room of a data folder, in bytes. */
export interface StorageDetail {
  originals: number
  renders: number
  /** Thumbnails, zoom pyramids and delivered files: can be made again. */
  derived: number
  backups: { name: string; bytes: number; made_at: string }[]
  bin: BinItem[]
  /** Jobs about everything, the newest first. */
  jobs: JobDetail[]
}

export type BinKind = 'shoot' | 'run' | 'frame' | 'render'

/** Something that was deleted and can still be put back. */
export interface BinItem {
  kind: BinKind
  id: number
  /** What it is, in words. */
  title: string
  bytes: number
  binned_at: string
  /** When it is deleted for good. */
  until: string
}
