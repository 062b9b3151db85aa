import Joi from 'joi'
import type { FuseSettings } from './fuseSettings'

/** Version of reports and registration records that this version writes. */
export const RECORD_VERSION = 3

/** The motion maps the reference frame's px, about the picture's centre, to the frame's; see `docs/engine.md`. */
export interface ReportFrame {
  /** The frame's `uid` in the database; absent where the command was given a folder. */
  uid?: string
  file: string
  /** `left out` where it could not be registered with the others; absent in reports of older renders. */
  role?: 'use' | 'left out'
  /** Why it was left out, as a code and in words. */
  reasonCode?: string
  reason?: string
  scale: number
  rotation_deg: number
  dx_px: number
  dy_px: number
  gain_ev: number
  /** Share of the picture that moved on its own since the frame before; absent in reports of older renders, as the next. */
  moved_percent?: number
  /** The farthest that a part of it was followed. */
  bent_px?: number
  correlation?: number
  /** Where it was captured several times with a shifted sensor: how many were merged; only the first where so much of it moved between them. */
  captures?: { taken: number; used: number; moved_percent: number }
  /** By what factor its scale against the frame two before it differs when measured by the frame between, as a logarithm. */
  scale_gap?: number
  share_percent: number
}

/** A part that moved, and the frame that shows it. */
export interface ReportPart {
  /** Where it lies, px of the reference frame. */
  x: number
  y: number
  width: number
  height: number
  area_percent: number
  /** A place inside it, px of the reference frame. */
  inside: { x: number; y: number }
  frame: string
  /** Frames that show it nearly as sharp, the sharpest first, with their detail beside the sharpest one's, in percent. */
  others: { frame: string; detail_percent: number }[]
}

/** What `nitidus fuse` reports of a render. */
export interface FuseReport {
  /** Absent in reports of older versions. */
  version?: number
  style: string
  settings: FuseSettings
  reference: string
  frames: ReportFrame[]
  crop: { x: number; y: number; width: number; height: number }
  /** What the result's samples mean: the name of its profile, and whether the frames had to be converted to it. */
  colour?: { profile: string | null; converted: boolean }
  /** Specks on the sensor that were kept out, in px of the frames; absent where they were not looked for, and in reports of older renders. */
  dust?: { x: number; y: number; radius_px: number; darkness: number }[]
  /** Parts that moved and are shown from one frame each, the largest first; absent where none did, and in reports of older renders. */
  parts?: ReportPart[]
  depth?: { unit: 'mm' | 'frames'; at0: number; at65535: number }
  timings_s: Record<string, number>
  peakMemory_MB: number
  /** Of a mended picture: the `uid` of the mend and of the render that it changes, and how many edits it has. */
  mend?: { mend: string; of: string; title: string; edits: number }
}

/** A report without its frames and places. */
export interface ReportInShort extends Pick<FuseReport, 'style' | 'settings' | 'reference' | 'crop' | 'mend'> {
  frameCount: number
  /** The place of the reference among the frames, from 1. */
  referenceNumber: number
  /** What became of parts that moved: shown from one frame each, followed, or there were none. */
  moved: 'parts' | 'followed' | 'none'
}

export function inShort({ style, settings, reference, crop, mend, frames, parts = [] }: FuseReport): ReportInShort {
  return {
    ...{ style, settings, reference, crop, ...(mend && { mend }) },
    frameCount: frames.length,
    referenceNumber: frames.findIndex(({ file }) => file === reference) + 1,
    moved: parts.length > 0 ? 'parts' : frames.some(({ bent_px }) => bent_px) ? 'followed' : 'none',
  }
}

const number = Joi.number().required()

const frameSchema = Joi.object({
  uid: Joi.string(),
  file: Joi.string().required(),
  role: Joi.valid('use', 'left out'),
  reasonCode: Joi.string(),
  reason: Joi.string().allow(''),
  scale: number,
  rotation_deg: number,
  dx_px: number,
  dy_px: number,
  gain_ev: number,
  moved_percent: Joi.number(),
  bent_px: Joi.number(),
  correlation: Joi.number(),
  captures: Joi.object({ taken: number, used: number, moved_percent: number }).unknown(),
  scale_gap: Joi.number(),
  share_percent: number,
}).unknown()

/** Reports may gain keys; a newer version's are read as far as they go. */
export const reportSchema = Joi.object<FuseReport>({
  version: Joi.number().integer().max(RECORD_VERSION),
  style: Joi.string().required(),
  settings: Joi.object({ bits: Joi.valid(8, 16).required(), register: Joi.boolean().required() })
    .unknown()
    .required(),
  reference: Joi.string().required(),
  frames: Joi.array().items(frameSchema).min(1).required(),
  crop: Joi.object({ x: number, y: number, width: number, height: number }).required(),
  colour: Joi.object({ profile: Joi.string().allow(null), converted: Joi.boolean() }).unknown(),
  dust: Joi.array().items(Joi.object({ x: number, y: number, radius_px: number, darkness: number })),
  parts: Joi.array().items(
    Joi.object({
      ...{ x: number, y: number, width: number, height: number, area_percent: number, frame: Joi.string().required() },
      inside: Joi.object({ x: number, y: number }).required(),
      others: Joi.array().items(Joi.object({ frame: Joi.string().required(), detail_percent: number })),
    }).unknown(),
  ),
  depth: Joi.object({ unit: Joi.valid('mm', 'frames').required(), at0: number, at65535: number }).unknown(),
  timings_s: Joi.object().pattern(Joi.string(), Joi.number()).required(),
  peakMemory_MB: number,
  mend: Joi.object({ mend: Joi.string().required(), of: Joi.string().required(), title: Joi.string().required(), edits: number }),
}).unknown()

/** The same for a report in a list, with only the keys that it needs. */
export const shortReportSchema = reportSchema.keys({
  frames: Joi.array()
    .items(Joi.object({ file: Joi.string().required(), bent_px: Joi.number() }).unknown())
    .min(1)
    .required(),
})
