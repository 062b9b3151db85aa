import { MOVER_KINDS } from '@/core/movers'
import Joi from 'joi'
import { NO_TIMING, type PlanRequest } from '@/core/plan'
import { length, positive } from './quantities'

const camera = Joi.object({
  sensorWidth_mm: positive('the sensor width in mm').max(500).required(),
  sensorHeight_mm: positive('the sensor height in mm').max(500).required(),
  pixelsWide: Joi.number().integer().min(16).max(200_000).required(),
  rawSize_MB: Joi.number().min(0).max(10_000).default(0),
}).required()

const lens = Joi.object({
  kind: Joi.valid('lens').required(),
  focalLength_mm: positive('the focal length in mm').max(5000).required(),
  fNumber: positive('the f-number').min(0.5).max(256).required(),
  pupilRatio: positive('the pupil ratio').min(0.05).max(20).default(1),
  magnification: positive('the magnification').min(0.001).max(200),
  attachment: Joi.boolean(),
  breathing: positive('the breathing').max(10),
})

const objective = Joi.object({
  kind: Joi.valid('objective').required(),
  designMagnification: positive('the magnification engraved on the objective').max(250).required(),
  designTube_mm: positive('the tube length the objective is made for').max(1000).required(),
  tube_mm: positive('the tube length in use').max(1000).required(),
  numericalAperture: positive('the numerical aperture').max(0.99).required(),
})

const sharpness = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'coc', then: Joi.object({ kind: Joi.string(), coc_mm: positive('the circle of confusion in mm').min(0.0001).max(5).required() }) },
    { is: 'pixels', then: Joi.object({ kind: Joi.string(), count: positive('the number of pixels').min(0.1).max(1000).required() }) },
    {
      is: 'print',
      then: Joi.object({
        kind: Joi.string(),
        width_mm: length('the print width').required(),
        viewingDistance_mm: length('the viewing distance').required(),
      }),
      otherwise: Joi.object({ kind: Joi.valid('coc', 'pixels', 'print').required() }),
    },
  ],
})

const subject = Joi.alternatives().conditional('.kind', {
  switch: [
    { is: 'depth', then: Joi.object({ kind: Joi.string(), depth_mm: length('the subject depth in mm').required() }) },
    {
      is: 'range',
      then: Joi.object({
        kind: Joi.string(),
        near_mm: length('the nearest distance in mm').required(),
        far_mm: length('the farthest distance in mm').allow(null, Infinity).required(),
        from: Joi.valid('lens', 'sensor').default('lens'),
      }),
      otherwise: Joi.object({ kind: Joi.valid('depth', 'range').required() }),
    },
  ],
})

const mover = Joi.alternatives()
  .conditional('.kind', {
    is: 'rail',
    then: Joi.object({ kind: Joi.string(), resolution_mm: positive('the smallest step of the rail in mm').max(100).required() }),
    otherwise: Joi.object({
      kind: Joi.valid(...MOVER_KINDS).required(),
      resolution_mm: positive('the smallest step of the focus drive in mm').max(100),
    }),
  })
  .default({ kind: 'ring' })

const seconds = () => Joi.number().min(0).max(86_400).default(0)

/** The plan request of the command, of the routes and of stored plans; infinity arrives as `null`. */
export const planRequestSchema = Joi.object<PlanRequest>({
  camera,
  optics: Joi.alternatives().conditional('.kind', { is: 'objective', then: objective, otherwise: lens }).required(),
  sharpness: sharpness.required(),
  diffraction: Joi.boolean().default(true),
  wavelength_nm: positive('the wavelength in nm').min(100).max(2000).default(550),
  subject: subject.required(),
  mover,
  overlap: Joi.number().min(0).max(0.95).default(0.3),
  leadIn_slices: Joi.number().min(0).max(20),
  runOut_slices: Joi.number().min(0).max(20),
  timing: Joi.object({
    move_s: seconds(),
    filter_s: seconds(),
    settle_s: seconds(),
    delay_s: seconds(),
    exposure_s: seconds(),
    exposuresPerFrame: Joi.number().integer().min(1).max(64).default(1),
    interval_s: seconds(),
    recycling_s: seconds(),
    write_s: seconds(),
  }).default(NO_TIMING),
}).required()
