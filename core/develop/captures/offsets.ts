import type { Interleaved } from '../../raster'
import { PairRegistrar, Preparer, type Prepared } from '../../register'
import { lightOfMosaic } from './mosaic'

/** How a capture lies on the first of its set, px of the sensor. */
export interface Offset {
  x_px: number
  y_px: number
  /** What a corner of the picture is moved by in another way: turned, or grown as the focus or the camera moved on. */
  otherwise_px: number
}

/** Measures how far the sensor stood from where it was at the first capture, in px of the sensor. */
export class OffsetMeter {
  private readonly pairs = new PairRegistrar()
  private readonly preparer = new Preparer()
  private readonly first: Prepared
  private readonly width: number

  constructor(first: Interleaved) {
    const light = lightOfMosaic(first)
    this.width = light.width
    this.first = this.preparer.fromLuma(light)
  }

  /** A pixel of this capture sees what lies so far from it in the first one. */
  of(capture: Interleaved): Offset {
    const { motion } = this.pairs.register(this.first, this.preparer.fromLuma(lightOfMosaic(capture)), this.width)
    const { scale, rotation_rad, dx_px, dy_px } = motion
    const corner_px = Math.hypot(capture.width, capture.height) / 2
    return { x_px: -2 * dx_px, y_px: -2 * dy_px, otherwise_px: corner_px * Math.hypot(scale - 1, rotation_rad) }
  }
}
