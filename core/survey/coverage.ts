import type { FrameFacts } from './frameFacts'
import { profilesOf } from './order'

/** A tile's sharpness has fallen far enough to judge its shape once it is down to half, as a logarithm. */
const FALLEN = 0.7
/** Share of the fall that lies in its outer half: a quarter where the peak is at the outermost frame, half on a slope. */
const STILL_RISING = 0.4
/** A tile must change by this factor to tell anything. */
const CHANGES = 4
/** Share of the telling tiles that may still be rising: an edge that comes in by breathing, a speck of dust. */
const MOST_RISING = 0.065

/**
 * Whether an end of the series reaches past the subject. `frames` run from that end inwards. In a part that lies beyond
 * the end sharpness is still rising in the outermost frame; in one that is just reached it has levelled out, as a
 * parabola at its top.
 */
export function endReached(frames: FrameFacts[]): boolean {
  return frames.length < 4 || risingShare(frames) <= MOST_RISING
}

/** Part of the telling tiles whose sharpness is still rising in the outermost frame. */
export function risingShare(frames: FrameFacts[]): number {
  const { tiles } = profilesOf(frames)
  const telling = tiles.filter((tile) => {
    const values = frames.map(({ sharpness }) => sharpness[tile])
    return Math.max(...values) > CHANGES * Math.min(...values)
  })
  const rising = telling.filter((tile) => stillRising(frames.map(({ sharpness }) => Math.log(Math.max(1e-12, sharpness[tile])))))
  return telling.length > 0 ? rising.length / telling.length : 0
}

function stillRising(values: number[]): boolean {
  const [outermost] = values
  if (values.some((value) => value > outermost)) return false
  const reach = values.findIndex((value) => outermost - value > FALLEN)
  if (reach < 1) return false
  const far = Math.max(2, reach)
  // Halfway between frames where the reach is odd.
  const half = (values[Math.floor(far / 2)] + values[Math.ceil(far / 2)]) / 2
  return outermost - half > STILL_RISING * (outermost - values[far])
}
