import Joi from 'joi'
import type { BinKind } from './api'
import type { NeutralPlace } from '@/core/develop'
import type { Rectangle } from '@/core/raster'
import type { PlanRequest } from '@/core/plan'
import type { PlanSheet } from '@/core/sheet'
import { CAMERA_FILES, FAULT_WORDS, SCENE_NAMES, type CameraFile, type Fault } from '@/core/simulate'
import { neutralPlaceSchema } from './development'
import { planRequestSchema } from './planRequest'
import { planSheetSchema } from './planSheet'

export interface ShootRequest {
  title: string
  subject: string
  scene: string
  /** What the plan was computed from; it stands by itself, whatever becomes of the kit. null where the frames come first. */
  plan: PlanRequest | null
  /** What stood in the fields; absent where the plan came from elsewhere. */
  sheet?: PlanSheet
}

/** What a shoot is called, and its notes. */
export type ShootWords = Pick<ShootRequest, 'title' | 'subject'>

const words = {
  title: Joi.string().trim().min(1).max(120).required().messages({
    'string.empty': 'Give the shoot a title.',
    'any.required': 'Give the shoot a title.',
    'string.max': 'Give a title of at most {{#limit}} letters.',
  }),
  subject: Joi.string().trim().allow('').max(300).default('').messages({ 'string.max': 'Keep the notes to {{#limit}} letters.' }),
}

export const shootWordsSchema = Joi.object<ShootWords>(words)

/** What the photographer notes of a run. */
export interface RunNotes {
  stars: number
  note: string
  tags: string[]
}

/** What of them is changed; the rest stays. */
export const runNotesSchema = Joi.object<Partial<RunNotes>>({
  stars: Joi.number().integer().min(0).max(5),
  note: Joi.string().trim().allow('').max(2000).messages({ 'string.max': 'Keep the note to {{#limit}} letters.' }),
  tags: Joi.array()
    .items(Joi.string().trim().min(1).max(40).messages({ 'string.max': 'Keep a tag to {{#limit}} letters.' }))
    .unique()
    .max(20),
}).min(1)

/** Which entries of the logbook are asked for, as an address names them. */
export interface LogQuery {
  words: string
  stars: number
  from: number
}

export const logQuerySchema = Joi.object<LogQuery>({
  words: Joi.string().trim().allow('').max(200).default(''),
  stars: Joi.number().integer().min(0).max(5).default(0),
  from: Joi.number().integer().min(0).default(0),
})

/** A shoot as the plan screen sends it. */
export const shootRequestSchema = Joi.object<ShootRequest>({
  ...words,
  scene: Joi.valid(...SCENE_NAMES).default('fossil'),
  plan: planRequestSchema.allow(null),
  sheet: planSheetSchema,
})

/** A folder on the server's machine to import frames from. */
export const folderSchema = Joi.object<{ folder: string }>({
  folder: Joi.string()
    .trim()
    .min(1)
    .max(1000)
    .required()
    .messages({ 'string.empty': 'Name the folder that holds the frames.', 'any.required': 'Name the folder that holds the frames.' }),
})

/** What the stand-in camera is asked for: faults to switch on, by kind, and what it writes. */
export interface StandInRequest {
  faults: Fault['kind'][]
  files: CameraFile
}

export const standInSchema = Joi.object<StandInRequest>({
  faults: Joi.array()
    .items(Joi.valid(...Object.keys(FAULT_WORDS)))
    .unique()
    .max(Object.keys(FAULT_WORDS).length)
    .default([]),
  files: Joi.valid(...CAMERA_FILES).default('jpg'),
})

/** Whether a frame is set aside by hand; null leaves it to the survey. */
export const asideSchema = Joi.object<{ aside: boolean | null }>({ aside: Joi.boolean().strict().allow(null).required() })

/** The frame whose white balance and brightness the raw frames of its run all take. */
export interface DevelopLike {
  frame: number
  neutral?: NeutralPlace
}

export const developLikeSchema = Joi.object<DevelopLike>({
  frame: Joi.number().integer().required(),
  neutral: neutralPlaceSchema,
})

/** A part of a frame, in px; it may reach beyond the frame. */
export const areaSchema = Joi.object<Rectangle & { as?: 'samples' }>({
  x: Joi.number().integer().min(-20_000).max(60_000).required(),
  y: Joi.number().integer().min(-20_000).max(60_000).required(),
  width: Joi.number().integer().min(16).max(2400).required(),
  height: Joi.number().integer().min(16).max(2400).required(),
  as: Joi.valid('samples'),
})

/** A place of a frame, in parts of its width and height, as an address names it. */
export const cardPlaceSchema = Joi.object<{ x: number; y: number }>({
  x: Joi.number().min(0).max(1).required(),
  y: Joi.number().min(0).max(1).required(),
})

/** A pixel of a picture, as an address names it. */
export const pixelSchema = Joi.object<{ x: number; y: number }>({
  x: Joi.number().integer().min(-1e6).max(1e6).required(),
  y: Joi.number().integer().min(-1e6).max(1e6).required(),
})

/** Which look at what fewer frames lose is meant: that of so many frames. */
export const lookSchema = Joi.object<{ frames: number }>({ frames: Joi.number().integer().min(2).max(20_000).required() })

/** How much of a picture is seen at once, as an address names it. */
export const viewSchema = Joi.object<{ width: number; height: number }>({
  width: Joi.number().integer().min(50).max(20_000).required(),
  height: Joi.number().integer().min(50).max(20_000).required(),
})

/** Depths that lines are laid at, as an address names them: 0.2,0.6. */
export const depthsSchema = Joi.object<{ depths: string }>({
  depths: Joi.string()
    .pattern(/^(0|1|0?\.\d+)(,(0|1|0?\.\d+)){0,6}$/)
    .required(),
})

/** Something in the bin. */
export const binItemSchema = Joi.object<{ kind: BinKind; id: number }>({
  kind: Joi.valid('shoot', 'run', 'frame', 'render').required(),
  id: Joi.number().integer().min(1).required(),
})

/** What a backup is asked to hold: some shoots, or everything. */
export const backupSchema = Joi.object<{ shoots?: number[] }>({ shoots: Joi.array().items(Joi.number().integer().min(1)).min(1).max(10_000) })

/** The number in a route's path, in the one spelling that an address has: no signs, no zeros before it, no decimals. */
export const idSchema = Joi.string()
  .pattern(/^[1-9]\d{0,15}$/)
  .required()
