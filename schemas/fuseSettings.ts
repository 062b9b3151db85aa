import Joi from 'joi'
import { STYLE_NAMES, USUAL_STYLE, type StyleName } from '@/core/fuse/purposes'
import { PREFERENCES, type Tuning } from '@/core/fuse/tuning'
import { MOVING, type Moving } from '@/core/moving/purposes'
import { FOLLOWING, type Following } from '@/core/register/following'

/** Whether dust on the sensor is kept out of the picture. */
export const DUST = ['auto', 'off'] as const

export interface FuseSettings extends Tuning {
  style: StyleName
  /** 1-based, in focus order; absent: the middle frame. */
  reference?: number
  bits: 8 | 16
  crop: 'common' | 'none'
  register: boolean
  /** Whether frames are bent a little to follow parts that moved on their own. */
  localWarp: Following
  /** Whether parts that moved are shown from one frame each; the engine decides where absent. */
  moving?: Moving
  /** Parts that are to be shown from another frame than the engine chose: a place within each, px of the reference frame, and the frame's file. */
  moments?: { x: number; y: number; frame: string }[]
  /** Absent in renders of older versions. */
  dust?: (typeof DUST)[number]
  /** The frames that the picture is sharp in, from and to, 1-based in focus order; what lies outside keeps its blur. All of them where absent. */
  sharp?: { from: number; to: number }
}

function within(least: number, most: number, what: string): Joi.NumberSchema {
  const text = `${what} must be a number from ${least} to ${most}.`
  return Joi.number().min(least).max(most).messages({ 'number.base': text, 'number.min': text, 'number.max': text })
}

/** What a render is asked for; the same for the command, the routes and the stored render. */
export const fuseSettingsSchema = Joi.object<FuseSettings>({
  style: Joi.valid(...STYLE_NAMES)
    .default(USUAL_STYLE)
    .messages({ 'any.only': `The style must be one of ${STYLE_NAMES.join(', ')}.` }),
  reference: Joi.number().integer().min(1),
  bits: Joi.valid(8, 16).default(16),
  crop: Joi.valid('common', 'none').default('common'),
  register: Joi.boolean().default(true),
  localWarp: Joi.valid(...FOLLOWING)
    .default('whereMoved')
    .messages({ 'any.only': `Say when to follow parts that moved: ${FOLLOWING.join(', ')}.` }),
  moving: Joi.valid(...MOVING).messages({ 'any.only': `Say how to show parts that moved: ${MOVING.join(', ')}.` }),
  moments: Joi.array()
    .items(Joi.object({ x: Joi.number().required(), y: Joi.number().required(), frame: Joi.string().max(255).required() }))
    .max(200),
  dust: Joi.valid(...DUST).messages({ 'any.only': `Say what to do about dust: ${DUST.join(' or ')}.` }),
  prefer: Joi.valid(...PREFERENCES).messages({ 'any.only': `Say which of two depths to prefer: ${PREFERENCES.join(', ')}.` }),
  boundary: within(0, 1, 'The boundary'),
  neighbourhood: within(1, 4, 'The neighbourhood').integer().messages({ 'number.integer': 'Give the neighbourhood as a whole number from 1 to 4.' }),
  floor: within(0.1, 100, 'The floor'),
  finest: Joi.boolean(),
  sharp: Joi.object({ from: Joi.number().integer().min(1).required(), to: Joi.number().integer().min(Joi.ref('from')).required() }),
})
