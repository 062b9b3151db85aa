import { MOVER_KINDS, type MoverKind } from '@/core/movers'
import Joi from 'joi'
import type { RawOriginal } from '@/core/develop'
import type { Recipe } from '@/core/finish'
import type { TakenWith } from '@/core/formats'
import type { Rectangle } from '@/core/raster'
import type { MendDocument } from '@/core/mend'
import type { SurfaceFacts } from '@/core/relief'
import type { SeriesRequest } from '@/core/simulate'
import { TAKE_NAMES, type Take } from './formats'
import { fuseSettingsSchema, type FuseSettings } from './fuseSettings'
import { sceneRequestSchema } from './sceneRequest'
import { mendSchema } from './mend'
import { recipeSchema } from './recipe'
import { targetFactsSchema, type TargetFile } from './target'
import { developmentSchema } from './development'
import { takenSchema } from './taken'

/** Version of job files that this version writes and reads. */
export const JOB_VERSION = 1
/** A job rests as long as this file exists, next to its folder. */
export const restFile = (folder: string) => `${folder}.rest`

/** A frame for the engine: its name, its file, and its `uid` if it is in a database. */
export interface FrameFile {
  uid?: string
  name: string
  file: string
  /** Of a raw frame: the original. It is developed into `file` by whoever needs that first. */
  raw?: RawOriginal
}

/**
 * Everything that one piece of heavy work needs, by name, so that it can be carried out anywhere: `nitidus run job.json`.
 * Paths are absolute, or from the folder of the job file.
 */
export type JobFile =
  ShootJob | FuseJob | InspectJob | NeededJob | MendJob | FinishJob | TakeJob | SurveyJob | SplitJob | MeasureJob | CheckJob | BackupJob | RestoreJob

export interface ShootJob {
  kind: 'shoot'
  scene: SeriesRequest
  out: string
}

export interface FuseJob {
  kind: 'fuse'
  frames: FrameFile[]
  settings: FuseSettings
  outputs: FuseOutputs
  /** Plane of focus of each frame, in mm away from the camera, and the size of a pixel on the subject. */
  positions_mm?: number[]
  pixel_mm?: number
}

/** Files that may be asked for; the picture always is. */
export interface FuseOutputs {
  out: string
  report?: string
  registration?: string
  bends?: string
  sourceMap?: string
  depth?: string
  confidence?: string
  relief?: string
  /** Folder for what there is so far. */
  soFar?: string
  /** Where the registration is stored for a later fuse; read if the file exists. */
  registered?: string
}

/** A fused picture gone through for places that are worth a look. */
export interface InspectJob {
  kind: 'inspect'
  frames: FrameFile[]
  /** How the frames lie on one another: `registration.json` of the render. */
  registration: string
  picture: string
  /** Where the places are written. */
  report: string
}

/** A series fused from fewer of its frames, against all of them. */
export interface NeededJob {
  kind: 'needed'
  frames: FrameFile[]
  /** How the frames lie on one another: `registration.json` of the render. */
  registration: string
  settings: FuseSettings
  /** Parts that moved, px of the reference frame: they are not judged. */
  parts: Rectangle[]
  /** Whether dust on the sensor was kept out. */
  dusty: boolean
  report: string
  /** Folder for a look at the place where each subset loses most. */
  looks?: string
}

/** Edits carried out on a render. */
export interface MendJob {
  kind: 'mend'
  frames: FrameFile[]
  /** How the frames lie on one another: `registration.json` of the render. */
  registration: string
  /** The fused picture. */
  picture: string
  /** Depth of the picture, for gates: a 16-bit PNG as large as it. It is worked out roughly where it is not given. */
  depth?: string
  document: MendDocument
  /** Where the pictures of other renders lie that are painted from, by the names that the edits have for them. */
  renders?: { name: string; file: string }[]
  out: string
}

/** A recipe carried out on a picture. */
export interface FinishJob {
  kind: 'finish'
  picture: string
  /** The fused picture before it was mended, as another layer. */
  fused?: string
  /** Maps as large as the picture, for steps that follow the depth, and for sharpening. */
  depth?: string
  confidence?: string
  recipe: Recipe
  taken?: TakenWith
  /** Frames to lay under it and how they lie, where it is written with layers. */
  frames?: FrameFile[]
  registration?: string
  out: string
}

/** Something to export besides the picture: see `TAKES`. */
export interface TakeJob {
  kind: 'take'
  what: Take
  picture: string
  /** Maps as large as the picture. */
  depth?: string
  confidence?: string
  sourceMap?: string
  /** What the depth stands for, and how wide the picture is that its pixel is of. */
  surface?: SurfaceFacts & { width_px: number }
  frames?: FrameFile[]
  registration?: string
  /** How wide pictures for the screen are. */
  width_px?: number
  out: string
}

export interface SurveyJob {
  kind: 'survey'
  frames: FrameFile[]
  mover?: MoverKind
  report: string
}

export interface SplitJob {
  kind: 'split'
  frames: FrameFile[]
  /** The raw files among them, by name; sets of captures with a shifted sensor are found in these. */
  raws?: { name: string; file: string }[]
  report: string
}

/** Frames of the printed sheet that focus is measured on. */
export interface MeasureJob {
  kind: 'measure'
  frames: FrameFile[]
  facts: TargetFile
  report: string
}

/** Files and their checksums; the report tells which are missing or changed. */
export interface CheckJob {
  kind: 'check'
  files: { id: number; file: string; sha256: string }[]
  report: string
}

/** What a check found: the ids of files that are gone, and of files that are no longer what they were. */
export interface CheckReport {
  checked: number
  missing: number[]
  changed: number[]
}

/** A data folder, or some of its shoots, as one archive. */
export interface BackupJob {
  kind: 'backup'
  dataFolder: string
  /** Ids of shoots; all of them where absent. */
  shoots?: number[]
  out: string
}

export interface RestoreJob {
  kind: 'restore'
  dataFolder: string
  archive: string
  report?: string
}

const path = Joi.string().min(1).max(4096).required()
const optionalPath = Joi.string().min(1).max(4096)
const frames = Joi.array()
  .items(
    Joi.object({
      uid: Joi.string(),
      // In job files of older versions.
      id: Joi.number().integer().strip(),
      name: Joi.string().min(1).max(1000).required(),
      file: path,
      raw: Joi.object({
        file: path,
        development: developmentSchema.required(),
        captures: Joi.array()
          .items(Joi.object({ file: path, x_px: Joi.number().required(), y_px: Joi.number().required() }))
          .max(64),
      }),
    }),
  )
  .max(20_000)
  .required()

/** What a job file of each kind holds. A new kind is added here, in `cli/run.ts`, and in `server/jobs/kinds`. */
export const JOB_FILES: { [K in JobFile['kind']]: Joi.SchemaMap } = {
  shoot: { scene: sceneRequestSchema.required(), out: path },
  fuse: {
    frames,
    settings: fuseSettingsSchema.required(),
    outputs: Joi.object({
      out: path,
      report: optionalPath,
      registration: optionalPath,
      bends: optionalPath,
      sourceMap: optionalPath,
      depth: optionalPath,
      confidence: optionalPath,
      relief: optionalPath,
      soFar: optionalPath,
      registered: optionalPath,
    }).required(),
    positions_mm: Joi.array().items(Joi.number()),
    pixel_mm: Joi.number().greater(0),
  },
  inspect: { frames, registration: path, picture: path, report: path },
  needed: {
    frames,
    registration: path,
    settings: fuseSettingsSchema.required(),
    parts: Joi.array()
      .items(Joi.object({ x: Joi.number(), y: Joi.number(), width: Joi.number(), height: Joi.number() }).options({ presence: 'required' }))
      .required(),
    dusty: Joi.boolean().required(),
    report: path,
    looks: optionalPath,
  },
  mend: {
    frames,
    registration: path,
    picture: path,
    depth: optionalPath,
    document: mendSchema,
    renders: Joi.array().items(Joi.object({ name: Joi.string().required(), file: path })),
    out: path,
  },
  finish: {
    picture: path,
    fused: optionalPath,
    depth: optionalPath,
    confidence: optionalPath,
    recipe: recipeSchema,
    taken: takenSchema,
    frames: frames.optional(),
    registration: optionalPath,
    out: path,
  },
  take: {
    what: Joi.valid(...TAKE_NAMES).required(),
    picture: path,
    depth: optionalPath,
    confidence: optionalPath,
    sourceMap: optionalPath,
    surface: Joi.object({
      unit: Joi.valid('mm', 'frames').required(),
      at0: Joi.number().required(),
      at65535: Joi.number().required(),
      slices: Joi.array().items(Joi.number()).required(),
      pixelSize: Joi.object({ size_mm: Joi.number().greater(0).required(), at_mm: Joi.number().required(), pupil_mm: Joi.number().greater(0) }),
      width_px: Joi.number().integer().min(1).required(),
    }),
    frames: frames.optional(),
    registration: optionalPath,
    width_px: Joi.number().integer().min(16).max(4000),
    out: path,
  },
  survey: { frames, mover: Joi.valid(...MOVER_KINDS), report: path },
  split: {
    frames,
    report: path,
    raws: Joi.array().items(Joi.object({ name: Joi.string().min(1).max(1000).required(), file: path })),
  },
  measure: { frames, facts: targetFactsSchema.required(), report: path },
  check: {
    files: Joi.array()
      .items(Joi.object({ id: Joi.number().required(), file: path, sha256: Joi.string().hex().length(64).required() }))
      .required(),
    report: path,
  },
  backup: { dataFolder: path, shoots: Joi.array().items(Joi.number().integer()), out: path },
  restore: { dataFolder: path, archive: path, report: optionalPath },
}

/** Checks a job file. @see JOB_FILES */
export const jobFileSchema = Joi.object({
  version: Joi.number().integer().min(1).max(JOB_VERSION).required(),
  kind: Joi.valid(...Object.keys(JOB_FILES)).required(),
}).unknown()
