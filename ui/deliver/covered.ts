import { standing, type Step } from '@/core/finish'
import { commonRectangle, type Rectangle } from '@/core/raster'
import type { FuseReport } from '@/schemas'

/** The part of a render that all of its frames show; undefined where that is all of it. `frame` is the size of the frames. */
export function coveredOf({ frames, crop }: Pick<FuseReport, 'frames' | 'crop'>, frame: { width: number; height: number }): Rectangle | undefined {
  const motions = frames
    .filter(({ role }) => role !== 'left out')
    .map(({ scale, rotation_deg, dx_px, dy_px }) => ({ scale, rotation_rad: (rotation_deg * Math.PI) / 180, dx_px, dy_px }))
  const common = commonRectangle(motions, frame.width, frame.height)
  return within({ ...common, x: common.x - crop.x, y: common.y - crop.y }, crop)
}

/** The same in the picture as it is after steps; undefined where it has no edges to keep off, or was turned or resized. */
export function coveredAfter(covered: Rectangle | undefined, steps: Step[]): Rectangle | undefined {
  let now = covered
  for (const step of standing(steps)) {
    if (!now) return undefined
    if (step.do === 'straighten' || step.do === 'size') return undefined
    if (step.do === 'crop') now = within({ ...now, x: now.x - step.x, y: now.y - step.y }, step)
  }
  return now
}

/** What of a rectangle lies in a picture of a size; undefined where it is all of the picture, or nothing. */
function within({ x, y, width, height }: Rectangle, picture: { width: number; height: number }): Rectangle | undefined {
  const [left, top] = [Math.max(0, x), Math.max(0, y)]
  const [right, bottom] = [Math.min(picture.width, x + width), Math.min(picture.height, y + height)]
  if (right <= left || bottom <= top) return undefined
  const all = left === 0 && top === 0 && right === picture.width && bottom === picture.height
  return all ? undefined : { x: left, y: top, width: right - left, height: bottom - top }
}
