import type { Similarity } from '../../raster'
import { POINT } from '../../raster/kernels'
import type { Level } from '../prepare'

/** What `to` shows where `motion` puts the points, each moved by `beside(k)` first; NaN outside of it. */
export function sampledBy(points: Float32Array, to: Level, motion: Similarity, beside?: (k: number) => readonly [number, number]): Float32Array {
  const [a, b] = [motion.scale * Math.cos(motion.rotation_rad), motion.scale * Math.sin(motion.rotation_rad)]
  const samples = new Float32Array(points.length / POINT.size).fill(NaN)
  const { image, stride, width, height } = to
  const [middleX, middleY] = [(width - 1) / 2, (height - 1) / 2]
  for (let k = 0; k < samples.length; k++) {
    const [u, v] = beside?.(k) ?? [0, 0]
    const x = points[k * POINT.size + POINT.x] + u
    const y = points[k * POINT.size + POINT.y] + v
    const qx = a * x - b * y + motion.dx_px + middleX
    const qy = b * x + a * y + motion.dy_px + middleY
    if (!(qx >= 1 && qy >= 1 && qx < width - 2 && qy < height - 2)) continue
    const ix = Math.floor(qx)
    const iy = Math.floor(qy)
    const o = iy * stride + ix
    const above = image[o] + (qx - ix) * (image[o + 1] - image[o])
    const below = image[o + stride] + (qx - ix) * (image[o + stride + 1] - image[o + stride])
    samples[k] = above + (qy - iy) * (below - above)
  }
  return samples
}

/** Gain and offset that give the samples the mean and the spread of what the points show. */
export function brightness(points: Float32Array, samples: Float32Array): { gain: number; offset: number } {
  let [n, sumS, sumR, sumSS, sumRR] = [0, 0, 0, 0, 0]
  for (let k = 0; k < samples.length; k++) {
    const sample = samples[k]
    if (Number.isNaN(sample)) continue
    const value = points[k * POINT.size + POINT.value]
    n++
    sumS += sample
    sumR += value
    sumSS += sample * sample
    sumRR += value * value
  }
  const gain = Math.sqrt(Math.max(sumRR / n - (sumR / n) ** 2, 1e-12) / Math.max(sumSS / n - (sumS / n) ** 2, 1e-12))
  return { gain, offset: sumR / n - (gain * sumS) / n }
}
