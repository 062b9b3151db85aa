import { floats } from './memory'
import { FAINT } from './pyramid'

/**
 * Numbers that a point to align on has: where it lies from the centre, x and y, what it shows, the gradient there, and one
 * over the deviation of photon noise, by which bright highlights do not outweigh everything else.
 */
export const POINT = { x: 0, y: 1, value: 2, gradientX: 3, gradientY: 4, quiet: 5, size: 6 }
/** Points of a block: sums are made block by block, which threads share, and what they add up to does not depend on how. */
export const POINTS_EACH = 128

/**
 * The places whose gradients are stronger than a threshold, two or more away from the border, as points, `most` of them at
 * the most; how many there are to `countAt`, as f64.
 */
export function collect(
  memory: ArrayBuffer,
  strengthAt: number,
  imageAt: number,
  gxAt: number,
  gyAt: number,
  stride: number,
  width: number,
  height: number,
  threshold: number,
  pointsAt: number,
  most: number,
  countAt: number,
): void {
  const [strength, image, gx, gy, points] = [strengthAt, imageAt, gxAt, gyAt, pointsAt].map((at) => floats(memory, at))
  let n = 0
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2, i = y * stride + 2; x < width - 2; x++, i++) {
      if (strength[i] <= Math.fround(threshold) || n === most) continue
      const quiet = 1 / Math.sqrt(Math.max(image[i], 0) + FAINT)
      points.set([x - (width - 1) / 2, y - (height - 1) / 2, image[i], gx[i], gy[i], quiet], POINT.size * n++)
    }
  }
  new Float64Array(memory, countAt, 1)[0] = n
}

/**
 * What the moved frame shows at each point of the blocks `from` … `to`, NaN outside of it. `sums` takes for each block, as f64: how
 * many points are inside, the sum of what the frame shows there and of what the points show, of the squares of both, and of their product.
 */
export function sampleAt(
  memory: ArrayBuffer,
  pointsAt: number,
  count: number,
  imageAt: number,
  stride: number,
  width: number,
  height: number,
  a: number,
  b: number,
  startX: number,
  startY: number,
  samplesAt: number,
  sumsAt: number,
  from: number,
  to: number,
): void {
  const [points, image, samples] = [pointsAt, imageAt, samplesAt].map((at) => floats(memory, at))
  const all = new Float64Array(memory, sumsAt, 6 * to).fill(0, 6 * from)
  for (let k = from * POINTS_EACH, p = k * POINT.size; k < Math.min(count, to * POINTS_EACH); k++, p += POINT.size) {
    const sums = all.subarray(6 * Math.floor(k / POINTS_EACH))
    const qx = a * points[p] - b * points[p + 1] + startX
    const qy = b * points[p] + a * points[p + 1] + startY
    samples[k] = NaN
    if (!(qx >= 1 && qy >= 1 && qx < width - 2 && qy < height - 2)) continue
    const [ix, iy] = [Math.floor(qx), Math.floor(qy)]
    const tx = qx - ix
    const o = iy * stride + ix
    const above = image[o] + tx * (image[o + 1] - image[o])
    const below = image[o + stride] + tx * (image[o + stride + 1] - image[o + stride])
    samples[k] = above + (qy - iy) * (below - above)
    const [s, r] = [samples[k], points[p + POINT.value]]
    ;[1, s, r, s * s, r * r, s * r].forEach((value, i) => (sums[i] += value))
  }
}

/**
 * Sums of the normal equations for (scale, rotation, dx, dy), for each block: their upper triangle row by row, then the right side, as f64.
 * A point's weight falls with its residual (gain × sample + offset − value, beside the noise) and is nothing from 1 / `cut` on (Tukey's
 * biweight). `unit` brings coordinates to the size of one.
 */
export function normalSums(
  memory: ArrayBuffer,
  pointsAt: number,
  count: number,
  samplesAt: number,
  gain: number,
  offset: number,
  cut: number,
  unit: number,
  sumsAt: number,
  from: number,
  to: number,
): void {
  const [points, samples] = [pointsAt, samplesAt].map((at) => floats(memory, at))
  const all = new Float64Array(memory, sumsAt, 14 * to).fill(0, 14 * from)
  for (let k = from * POINTS_EACH, p = k * POINT.size; k < Math.min(count, to * POINTS_EACH); k++, p += POINT.size) {
    const sums = all.subarray(14 * Math.floor(k / POINTS_EACH))
    const quiet = points[p + POINT.quiet]
    const residual = (gain * samples[k] + offset - points[p + POINT.value]) * quiet
    const t = residual * cut
    if (!(t < 1 && t > -1)) continue
    const weight = (1 - t * t) ** 2
    const [x, y] = [points[p] * unit, points[p + 1] * unit]
    const [gx, gy] = [points[p + POINT.gradientX] * quiet, points[p + POINT.gradientY] * quiet]
    const row = [gx * x + gy * y, gy * x - gx * y, gx, gy]
    let i = 0
    for (let r = 0; r < 4; r++) for (let c = r; c < 4; c++) sums[i++] += weight * row[r] * row[c]
    for (let r = 0; r < 4; r++) sums[i++] -= weight * row[r] * residual
  }
}
