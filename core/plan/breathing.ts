import { movesCamera } from '../movers'
import { imageDistance_mm } from '../optics'
import { effectiveFocalLength_mm, workingDistance_mm } from './framing'
import type { PlanRequest } from './request'

/** How a lens breathes. */
export interface Breathing {
  /** Change of the picture's scale over the series, in percent. */
  scale_percent: number
  /** Times that of a thin lens focused by extension: scale goes with (image distance)^times. */
  times: number
}

/** A focused frame: its scale against any one frame of the series, and its plane of focus from the subject's near edge, in mm. */
export interface FocusedFrame {
  scale: number
  position_mm: number
}

/** Below this change of scale there is nothing to measure by. */
const LEAST_percent = 0.2
/** Part of the scales' spread that the line has to explain. */
const FITS = 0.9

/**
 * Breathing by the motions that registration found: the slope of log scale over the log of a thin lens's image distance,
 * by least squares. Undefined where the focus was moved by a rail, where scale hardly changed, or where it went another
 * way than focus did: then something else moved.
 */
export function measuredBreathing(frames: FocusedFrame[], { optics, mover, subject }: PlanRequest): Breathing | undefined {
  if (optics.kind !== 'lens' || movesCamera(mover.kind) || frames.length < 3) return undefined
  const { magnification = 0 } = optics
  const range = subject.kind === 'range'
  const focalLength_mm = range ? optics.focalLength_mm : effectiveFocalLength_mm(optics, magnification)
  const near_mm = range ? subject.near_mm : workingDistance_mm(optics, magnification)
  const points = frames.map(({ scale, position_mm }) => [Math.log(imageDistance_mm(focalLength_mm, near_mm + position_mm)), Math.log(scale)])
  const mean = (k: 0 | 1) => points.reduce((sum, point) => sum + point[k], 0) / points.length
  const [meanX, meanY] = [mean(0), mean(1)]
  let [xx, xy, yy] = [0, 0, 0]
  for (const [x, y] of points) {
    xx += (x - meanX) ** 2
    xy += (x - meanX) * (y - meanY)
    yy += (y - meanY) ** 2
  }
  const scales = frames.map(({ scale }) => scale)
  const scale_percent = 100 * (Math.max(...scales) / Math.min(...scales) - 1)
  const times = xy / xx
  if (scale_percent < LEAST_percent || !(xx > 0) || !(times > 0) || xy ** 2 / (xx * yy) < FITS) return undefined
  return { scale_percent, times }
}
