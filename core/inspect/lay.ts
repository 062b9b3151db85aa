import { apply, bendAt, createPlane, cubicWeights, SHARPNESS, type Bend, type Plane, type Similarity } from '../raster'

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
  for (let v = 0, o = 0; v < height; v++)
    for (let u = 0; u < width; u++, o++) {
      const [px, py] = [x + u * step, y + v * step]
      const [dx, dy] = bend ? bendAt(bend, px, py) : [0, 0]
      const [qx, qy] = apply(motion, px + dx - cx, py + dy - cy)
      out.data[o] = between(small, (qx + cx) / step, (qy + cy) / step)
    }
  return out
}

/** Cubic (Keys, 1981), edges repeated. */
function between({ data, width, height }: Plane, x: number, y: number): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)]
  const [across, down] = [cubicWeights(x - ix, SHARPNESS), cubicWeights(y - iy, SHARPNESS)]
  let sum = 0
  for (let j = 0; j < 4; j++) {
    const row = Math.min(height - 1, Math.max(0, iy + j - 1)) * width
    let line = 0
    for (let i = 0; i < 4; i++) line += across[i] * data[row + Math.min(width - 1, Math.max(0, ix + i - 1))]
    sum += down[j] * line
  }
  return sum
}
