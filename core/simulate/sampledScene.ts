import type { View } from './camera'

/** A layer seen from one place, sampled finer than the pictures made from it. */
export interface SampledLayer {
  backdrop: boolean
  /** Extent in samples, and where its first sample lies from the optical axis. */
  width: number
  height: number
  left: number
  top: number
  /** Red, green, blue (times alpha) and alpha, linear light; as beside it where nearer surfaces always hide it. */
  colour: Float32Array
  /** One over the distance from the entrance pupil, in 1/mm, in which blur is even; beyond the outline too. */
  inverse: Float32Array
  /** Nearest and farthest of these. */
  inverseRange: [number, number]
  /** For each row, the first sample that stops any light and the one behind the last. */
  spans: Int32Array
  /** How far wind may carry it from frame to frame, in px. */
  sway_px: number
  /** Looks different at each moment: water. */
  moving: boolean
}

export interface SampledScene {
  layers: SampledLayer[]
  /** The view it was sampled from and samples per pixel of it. */
  view: View
  density: number
  extent: Extent
}

/** What of the scene is sampled, in samples from the optical axis. */
export interface Extent {
  left: number
  right: number
  top: number
  bottom: number
}
