import { deviation, mean } from '../../statistics'
import { meanSquareOf } from './profile'

/** A lens focuses on a bowl rather than on a plane. */
export interface Curvature {
  /** How much nearer the focus lies at the left and right edges of the picture than in its middle, mm; less than 0 where it lies farther. */
  nearer_mm: number
  /** What that may be off by: one standard deviation. */
  spread_mm: number
}

/** A part of a line sees the bowl where its bars happen to stand: simulated bowls are told so much too deep, as a part of them. */
const UNSURE = 0.15
/** So many frames tell it at the least: a single one cannot say how sure it is. */
const LEAST_FRAMES = 3

/**
 * The curvature of the field from frames of the sheet: the focus at the sides of the picture against that in its middle goes with the square of the
 * distance from the axis (Petzval; Ray). What of a bowl lies above and below is alike at all three places, and falls out.
 * @param frames how far the sides lie behind the middle, and how far off the picture's edge is, in pitches.
 */
export function curvatureOf(frames: { sides: number; edge: number }[], pitch_mm: number): Curvature | null {
  if (frames.length < LEAST_FRAMES) return null
  const apart = (meanSquareOf('left') + meanSquareOf('right')) / 2 - meanSquareOf('middle')
  const nearer_mm = frames.map(({ sides, edge }) => ((-sides * edge ** 2) / apart) * pitch_mm)
  const all_mm = mean(nearer_mm)
  return { nearer_mm: all_mm, spread_mm: Math.hypot(deviation(nearer_mm) / Math.sqrt(frames.length), UNSURE * all_mm) }
}
