import { bendAt, type Bend } from './bend'
import { clamp } from './kernels/twin/memory'
import { PHASES } from './kernels/twin/samples'
import { createPlane, type Plane } from './plane'
import type { Similarity } from './similarity'
import { TAPS } from './warp'

/** Where a small picture of a render lies, and how small: its first pixel is the reference frame's (x, y), and the next ones `step` px apart. */
export interface Looking {
  x: number
  y: number
  step: number
  width: number
  height: number
}

/**
 * A frame as a render's small picture shows that place. `small` is the frame, halved until `step` of its px are one; `frame` is its
 * whole size.
 */
export function layOn(
  small: Plane,
  frame: { width: number; height: number },
  motion: Similarity,
  bend: Bend | undefined,
  { x, y, step, width, height }: Looking,
): Plane {
  const out = createPlane(width, height)
  const [cx, cy] = [(frame.width - 1) / 2, (frame.height - 1) / 2]
  const [a, b] = [motion.scale * Math.cos(motion.rotation_rad), motion.scale * Math.sin(motion.rotation_rad)]
  const bends = bend && new BendRows(bend)
  for (let v = 0, o = 0; v < height; v++) {
    const py = y + v * step - cy
    bends?.row(y + v * step)
    for (let u = 0; u < width; u++, o++) {
      const place = x + u * step
      let [qx, qy] = [place - cx, py]
      if (bends) {
        bends.at(place)
        qx += bends.dx
        qy += bends.dy
      }
      out.data[o] = between(small, (a * qx - b * qy + motion.dx_px + cx) / step, (b * qx + a * qy + motion.dy_px + cy) / step)
    }
  }
  return out
}

/** A bend read along a row: between two rows of its net once, then from place to place. */
class BendRows {
  dx = 0
  dy = 0
  private readonly x: Float32Array
  private readonly y: Float32Array

  constructor(private readonly bend: Bend) {
    this.x = new Float32Array(bend.columns)
    this.y = new Float32Array(bend.columns)
  }

  row(y: number): void {
    const { columns, left_px, spacingX_px } = this.bend
    for (let column = 0; column < columns; column++) [this.x[column], this.y[column]] = bendAt(this.bend, left_px + column * spacingX_px, y)
  }

  at(x: number): void {
    const { columns, left_px, spacingX_px } = this.bend
    const place = Math.min(columns - 1, Math.max(0, (x - left_px) / spacingX_px))
    const column = Math.min(columns - 2, Math.floor(place))
    const part = place - column
    this.dx = this.x[column] + part * (this.x[column + 1] - this.x[column])
    this.dy = this.y[column] + part * (this.y[column + 1] - this.y[column])
  }
}

/** Cubic (Keys, 1981), edges repeated; at the nearest of a thousand places between two samples. */
function between({ data, width, height }: Plane, x: number, y: number): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)]
  const [across, down] = [4 * Math.round((x - ix) * PHASES), 4 * Math.round((y - iy) * PHASES)]
  const inside = ix > 0 && iy > 0 && ix < width - 2 && iy < height - 2
  let sum = 0
  for (let j = 0; j < 4; j++) {
    const row = (inside ? iy + j - 1 : clamp(iy + j - 1, height)) * width
    let line = 0
    if (inside) for (let i = 0, from = row + ix - 1; i < 4; i++, from++) line += TAPS[across + i] * data[from]
    else for (let i = 0; i < 4; i++) line += TAPS[across + i] * data[row + clamp(ix + i - 1, width)]
    sum += TAPS[down + j] * line
  }
  return sum
}
