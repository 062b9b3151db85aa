import Joi from 'joi'
import type { Rectangle } from '@/core/raster'

/** A series fused from some of its frames, against all of them. */
export interface NeededSubset {
  /** How many times as far apart its frames are. */
  every: number
  frames: string[]
  psnr_dB: number
  worst_dB: number
  /** Share of the tiles with detail that look soft. */
  soft_percent: number
  visible: boolean
  /** Where most is lost, px of the picture. */
  softest?: Rectangle
}

/** What `nitidus frames-needed` answers. */
export interface NeededReport {
  /** The fewest frames last. */
  subsets: NeededSubset[]
  fewest: { every: number; frames: number }
  code: string
  text: string
}

const number = Joi.number().required()

export const neededSchema = Joi.object<NeededReport>({
  subsets: Joi.array()
    .items(
      Joi.object({
        every: number,
        frames: Joi.array().items(Joi.string()).required(),
        psnr_dB: number,
        worst_dB: number,
        soft_percent: number,
        visible: Joi.boolean().required(),
        softest: Joi.object({ x: number, y: number, width: number, height: number }),
      }).unknown(),
    )
    .required(),
  fewest: Joi.object({ every: number, frames: number }).required(),
  code: Joi.string().required(),
  text: Joi.string().required(),
}).unknown()
