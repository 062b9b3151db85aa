import { MOVER_KINDS } from '@/core/movers'
import Joi from 'joi'
import { CAMERA_FILES, CAPTURE_COUNTS, SCENE_NAMES, USUAL_SHEET, type Fault, type SeriesRequest } from '@/core/simulate'
import { positive } from './quantities'

const frame = Joi.number().integer().min(1).max(500).required()
const frames = Joi.number().integer().min(1).max(100).default(4)

/** A fault by its kind, with what that kind needs to know. */
const FAULTS: Record<Fault['kind'], Joi.SchemaMap> = {
  bump: { frame, shift_percent: Joi.number().min(0).max(20).default(2.5), pushed: Joi.boolean() },
  sway: { shift_px: Joi.number().min(0).max(50).default(1.5) },
  noFlash: { frame, stops: Joi.number().min(0).max(12).default(2.5) },
  flicker: { ev: Joi.number().min(0).max(3).default(0.15) },
  skippedStep: { frame },
  repeatedStep: { frame },
  shake: { frame, length_px: Joi.number().min(0).max(100).default(6) },
  whiteBalance: { frame, red_ev: Joi.number().min(-3).max(3).default(0.35), blue_ev: Joi.number().min(-3).max(3).default(-0.4) },
  divider: { frame },
  startShort: { frames },
  endShort: { frames },
  runsOn: { frames },
  stirred: { frame, frames, shift_percent: Joi.number().min(0).max(20).default(0.7) },
  dust: { specks: Joi.number().integer().min(1).max(40).default(6) },
}

const fault = Joi.alternatives().conditional('.kind', {
  switch: Object.entries(FAULTS).map(([kind, facts]) => ({ is: kind, then: Joi.object({ kind: Joi.string(), ...facts }) })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(FAULTS)).required() }),
})

/** What `simulate` and the simulated camera are asked for. */
export const sceneRequestSchema = Joi.object<SeriesRequest>({
  scene: Joi.valid(...SCENE_NAMES).required(),
  seed: Joi.number()
    .integer()
    .min(0)
    .max(2 ** 31)
    .default(1),
  camera: Joi.object({
    sensorWidth_mm: positive('the sensor width in mm').max(500).default(36),
    width_px: Joi.number().integer().min(64).max(12_000).default(1200),
    height_px: Joi.number().integer().min(64).max(9_000).default(800),
    focalLength_mm: positive('the focal length in mm').max(1000).default(100),
    fNumber: positive('the f-number').min(0.7).max(90).default(8),
    magnification: positive('the magnification').min(0.0005).max(20).default(1),
    mover: Joi.valid(...MOVER_KINDS).default('rail'),
    spherical_mm: Joi.number().min(0).max(100),
  }).default(),
  positions_mm: Joi.array().items(Joi.number().min(-1000).max(100_000)).min(1).max(500).required(),
  unsteadiness: Joi.object({
    shift_px: Joi.number().min(0).max(200).default(0.8),
    rotation_deg: Joi.number().min(0).max(10).default(0.03),
    exposure_ev: Joi.number().min(0).max(3).default(0.02),
  }).default(),
  fullWell: positive('the photons that fill a pixel').max(1e6).default(30_000),
  files: Joi.valid(...CAMERA_FILES),
  captures: Joi.valid(...CAPTURE_COUNTS).when('files', { not: 'dng', then: Joi.forbidden() }),
  breeze_mm: Joi.number().min(0).max(100),
  wind: Joi.number().min(0).max(10),
  aside_mm: Joi.number().min(0).max(100),
  sheet: Joi.object({
    pitch_mm: positive('the distance of its dots in mm').max(100).default(USUAL_SHEET.pitch_mm),
    tilt_deg: Joi.number().min(15).max(75).default(USUAL_SHEET.tilt_deg),
    turned_deg: Joi.number().min(-20).max(20).default(0),
    rolled_deg: Joi.number().min(-20).max(20).default(0),
    print_mm: Joi.number().min(0).max(1).default(USUAL_SHEET.print_mm),
    curved_mm: Joi.number().min(-20).max(20),
  }),
  faults: Joi.array().items(fault).max(50),
})
