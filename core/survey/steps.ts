import { compose, IDENTITY, type Similarity } from '../raster'
import { prepare, registerPair, type Prepared } from '../register'
import type { FrameFacts } from './frameFacts'
import { apart, median, type Profiles } from './order'

/** From one frame to the next in focus order. */
export interface Step {
  /** How far the focus went, where 1 is the usual step of the series. */
  length: number
  /** Motion of the picture, in px of the frames as surveyed. */
  motion: Similarity
  correlation: number
}

/** Below this change of scale over the series, as a logarithm, breathing tells no steps. */
const LEAST_BREATHING = 0.004

export interface Steps {
  steps: Step[]
  /** Motion from the first frame in order to each. */
  motions: Similarity[]
  /** Whether lengths come from the change of scale, or from sharpness alone. */
  byScale: boolean
}

/**
 * How the focus and the picture moved through a series that is in order. Where the picture breathes, or the camera
 * comes closer, its change of scale measures the steps: it goes evenly with the image distance, or with the travel.
 */
export function stepsOf(frames: FrameFacts[], { rows }: Profiles): Steps {
  const prepared = frames.map(({ luma }) => prepare(luma))
  const width = frames[0].luma.width
  const pairs = frames.slice(1).map((_, k) => registerPair(prepared[k], prepared[k + 1], width))
  const motions = pairs.reduce((chain, { motion }) => [...chain, compose(motion, chain.at(-1)!)], [IDENTITY])
  const scales = pairs.map(({ motion }) => Math.log(motion.scale))
  const bySharpness = rows.slice(1).map((row, k) => apart(rows[k], row))
  const total = scales.reduce((sum, s) => sum + s, 0)
  const direction = Math.sign(total)
  const byScale = Math.abs(total) > LEAST_BREATHING && scales.filter((s) => s * direction > 0).length > 0.8 * scales.length
  const raw = byScale ? scales.map((s) => s * direction) : bySharpness
  const usual = Math.max(1e-9, median(raw))
  return {
    steps: pairs.map(({ motion, correlation }, k) => ({ length: raw[k] / usual, motion, correlation })),
    motions,
    byScale,
  }
}

/** A pair's points on some tiles only; the others are left out of the registration. */
export function onTiles(prepared: Prepared, across: number, down: number, allowed: Set<number>): Prepared {
  return {
    levels: prepared.levels.map((level) => {
      const { width, height } = level.image
      const points = level.points.filter((i) => {
        const tile = Math.floor((Math.floor(i / width) * down) / height) * across + Math.floor(((i % width) * across) / width)
        return allowed.has(tile)
      })
      return { ...level, points }
    }),
  }
}
