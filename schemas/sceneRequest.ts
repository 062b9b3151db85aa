import Joi from 'joi'
import { SCENES, type SeriesRequest } from '@/core/simulate'
import { positive } from './quantities'

/** What `simulate` and the simulated camera are asked for. */
export const sceneRequestSchema = Joi.object<SeriesRequest>({
  scene: Joi.valid(...Object.keys(SCENES)).required(),
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
    magnification: positive('the magnification').min(0.1).max(20).default(1),
    mover: Joi.valid('rail', 'ring').default('rail'),
  }).default(),
  positions_mm: Joi.array().items(Joi.number().min(-1000).max(1000)).min(1).max(500).required(),
  unsteadiness: Joi.object({
    shift_px: Joi.number().min(0).max(200).default(0.8),
    rotation_deg: Joi.number().min(0).max(10).default(0.03),
    exposure_ev: Joi.number().min(0).max(3).default(0.02),
  }).default(),
  fullWell: positive('the photons that fill a pixel').max(1e6).default(30_000),
})
