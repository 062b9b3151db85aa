import type { FrameFacts } from './frameFacts'
import { profilesOf } from './order'

/** A tile that is so much sharper in the outermost frame than in the one before is still on its way to being sharp. */
const STILL_RISING = 1.35
/** A tile must change by this factor to tell anything. */
const CHANGES = 4
/** Share of the telling tiles that may still be rising: an edge that comes in by breathing, a speck of dust. */
const MOST_RISING = 0.028

/** Whether an end of the series reaches past the subject. `frames` run from that end inwards. */
export function endReached(frames: FrameFacts[]): boolean {
  if (frames.length < 3) return true
  const { tiles } = profilesOf(frames)
  const telling = tiles.filter((tile) => {
    const values = frames.map(({ sharpness }) => sharpness[tile])
    return Math.max(...values) > CHANGES * Math.min(...values)
  })
  const rising = telling.filter((tile) => {
    const [outermost, next] = frames.map(({ sharpness }) => sharpness[tile])
    return outermost > STILL_RISING * next && frames.every(({ sharpness }) => sharpness[tile] <= outermost)
  })
  return rising.length <= Math.max(1, MOST_RISING * telling.length)
}
