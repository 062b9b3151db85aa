import Joi from 'joi'
import { STYLES, USUAL_STYLE } from '@/core/fuse'
import { FOLLOWING, type Following } from '@/core/register'

export interface FuseSettings {
  style: string
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
  style: Joi.valid(...Object.keys(STYLES))
    .default(USUAL_STYLE)
    .messages({ 'any.only': `The style must be one of ${Object.keys(STYLES).join(', ')}.` }),
  reference: Joi.number().integer().min(1),
  bits: Joi.valid(8, 16).default(16),
  crop: Joi.valid('common', 'none').default('common'),
  register: Joi.boolean().default(true),
  localWarp: Joi.valid(...FOLLOWING)
    .default('whereMoved')
    .messages({ 'any.only': `Parts that moved are followed ${FOLLOWING.join(', ')}; say one of these.` }),
})
