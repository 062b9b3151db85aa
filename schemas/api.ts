import type { FieldEntry } from '@/core/field'
import type { Plan, PlanRequest } from '@/core/plan'
import type { PlanSheet } from '@/core/sheet'
import type { SurveyReport } from '@/core/survey'
import type { FuseSettings } from './fuseSettings'

/** What the routes answer, for the screens. Times are ISO 8601 in UTC. */

export type ShootState = 'planned' | 'shot' | 'fused'

export interface ShootSummary {
  id: number
  title: string
  subject: string
  state: ShootState
  created_at: string
  frameCount: number
  /** Picture to show: the newest render, else a frame. */
  cover: { kind: 'render' | 'frame'; id: number } | null
  plan: Plan | null
}

export interface ShootDetail extends Omit<ShootSummary, 'plan'> {
  scene: string
  planRequest: PlanRequest
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
  /** Entry of the field log that began it, empty for the log's first run; null where no log tells of it. */
  begun_by: string | null
  created_at: string
  frames: FrameDetail[]
  survey: SurveyReport | null
  renders: RenderDetail[]
}

export interface FrameDetail {
  id: number
  name: string
  sha256: string
  bytes: number
  width: number
  height: number
  bits: number
  exif: FrameExif | null
  /** Plane of focus from the subject's near edge, where it is known. */
  position_mm: number | null
  /** Set aside (true) or restored (false) by hand; null as the survey says. */
  aside: boolean | null
  created_at: string
}

/** What is kept of a frame's EXIF, in plain units. */
export interface FrameExif {
  body?: string
  taken_at?: string
  exposure_s?: number
  fNumber?: number
  focalLength_mm?: number
  iso?: number
}

export interface RenderDetail {
  id: number
  created_at: string
  bytes: number
  report: FuseReport
}

export type JobState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled' | 'interrupted'
export type JobKind = 'shoot' | 'fuse'

export interface JobDetail {
  id: number
  run_id: number
  kind: JobKind
  state: JobState
  error: string | null
  created_at: string
  ended_at: string | null
  /** `soFar` counts the pictures of what there is so far; absent before the first. */
  progress: { stage: string; frame: number; of: number; file?: string; soFar?: number } | null
}

/** The report of `nitidus fuse`, as far as the screens use it. */
export interface FuseReport {
  style: string
  settings: FuseSettings
  reference: string
  frames: {
    file: string
    /** `left out` where it could not be registered with the others; absent in reports of older renders. */
    role?: 'use' | 'left out'
    scale: number
    rotation_deg: number
    dx_px: number
    dy_px: number
    gain_ev: number
    /** Share of the picture that moved on its own since the frame before; absent in reports of older renders, as the next. */
    moved_percent?: number
    /** The farthest that a part of it was followed. */
    bent_px?: number
    share_percent: number
  }[]
  crop: { x: number; y: number; width: number; height: number }
  timings_s: Record<string, number>
  peakMemory_MB: number
}
