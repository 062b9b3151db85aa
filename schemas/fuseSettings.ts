import Joi from 'joi'
import { STYLE_NAMES, USUAL_STYLE, type StyleName } from '@/core/fuse/purposes'
import { FOLLOWING, type Following } from '@/core/register/following'

export interface FuseSettings {
  style: StyleName
  /** 1-based, in focus order; absent: the middle frame. */
  reference?: number
  bits: 8 | 16
  crop: 'common' | 'none'
  register: boolean
  /** Whether frames are bent a little to follow parts that moved on their own. */
  localWarp: Following
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
})
