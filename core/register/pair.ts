import { compose, createPlane, gaussianPyramid, IDENTITY, smooth, type Plane, type Similarity } from '../raster'
import { exposureGain } from './exposure'
import { solve } from './solve'

export interface PairMotion {
  motion: Similarity
  /** Factor that brings the frame's exposure to the reference's, on encoded values. */
  gain: number
  /** Root mean square difference that remains, on 0 … 1, and the correlation of the two (1 = alike). */
  residual: number
  correlation: number
}

/** Rows and columns below this are too few to align on. */
const COARSEST_px = 48
const MOST_POINTS = 24_000
const MOST_STEPS = 16
/** One pixel in so many tells the threshold; a prime number. */
const SAMPLED = 31
/** Movement of the corners, in px of a level, below which another step is not worth its time; on the finest and on others. */
const SETTLED_px = { finest: 0.008, coarser: 0.05 }

/** A plane made ready for {@link registerPair}: its pyramid with gradients, computed once and used for several pairs. */
export interface Prepared {
  levels: Level[]
}

interface Level {
  image: Plane
  /** Indices of the points to align on, and where they lie from the centre. */
  points: Int32Array
  fromCentre: Float32Array
  gradientX: Plane
  gradientY: Plane
}

/** Builds the pyramid that registration works on from a frame's luma, `finestWidth_px` at the most. */
export function prepare(luma: Plane, finestWidth_px = 1600): Prepared {
  const count = Math.max(0, Math.floor(Math.log2(Math.min(luma.width, luma.height) / COARSEST_px)))
  const pyramid = gaussianPyramid(luma, count)
  const first = pyramid.findIndex((level) => level.width <= finestWidth_px)
  return { levels: pyramid.slice(Math.max(first, 0)).map((plane) => withGradients(smooth(plane))) }
}

/**
 * The motion from `reference` to `frame` (see Similarity), in pixels of the full picture of `fullWidth_px`, with the
 * gain of exposure. Coarse to fine, robust Gauss–Newton (Lucas & Kanade, 1981; Baker & Matthews, 2004) on the
 * points with the strongest gradients, which are those in focus: they, not the blurred ones, are to coincide.
 */
export function registerPair(reference: Prepared, frame: Prepared, fullWidth_px: number, start: Similarity = IDENTITY): PairMotion {
  let motion = start
  let result = { motion, residual: 1, correlation: 0 }
  for (let k = reference.levels.length - 1; k >= 0; k--) {
    const factor = reference.levels[k].image.width / fullWidth_px
    const refined = refine(reference.levels[k], frame.levels[k], scaled(motion, factor), k === 0 ? SETTLED_px.finest : SETTLED_px.coarser)
    motion = scaled(refined.motion, 1 / factor)
    result = { ...refined, motion }
  }
  const coarsest = reference.levels.at(-1)!.image
  const gain = exposureGain(coarsest, frame.levels.at(-1)!.image, scaled(motion, coarsest.width / fullWidth_px))
  return { ...result, gain }
}

/** The same motion in a picture `factor` times as large. */
export function scaled(motion: Similarity, factor: number): Similarity {
  return { ...motion, dx_px: motion.dx_px * factor, dy_px: motion.dy_px * factor }
}

function refine(reference: Level, frame: Level, start: Similarity, settled_px: number): Omit<PairMotion, 'gain'> {
  const { points } = reference
  const { width, height } = reference.image
  let motion = start
  let gain = 1
  let offset = 0
  let spread = Infinity
  let correlation = 0
  const residuals = new Float32Array(points.length)
  const samples = new Float32Array(points.length * 3)
  const inside = new Int32Array(points.length)
  for (let step = 0; step < MOST_STEPS; step++) {
    const used = sampleAt(reference.fromCentre, frame, motion, samples, inside)
    if (used.length < 50) break
    ;({ gain, offset, correlation } = brightness(points, used, samples, reference.image.data))
    for (const i of used) residuals[i] = gain * samples[3 * i] + offset - reference.image.data[points[i]]
    spread = robustSpread(residuals, used)
    const change = gaussNewtonStep(reference.fromCentre, used, samples, residuals, gain, spread, motion, width)
    if (!change) break
    motion = compose(motion, change)
    const halfDiagonal = Math.hypot(width, height) / 2
    if (Math.hypot(change.dx_px, change.dy_px) + halfDiagonal * (Math.abs(change.scale - 1) + Math.abs(change.rotation_rad)) < settled_px) break
  }
  return { motion, residual: spread, correlation }
}

/** Indices of the points to align on: the strongest gradients, at most MOST_POINTS, away from the border. */
function strongestPoints({ width, height }: Plane, gradientX: Plane, gradientY: Plane): Int32Array {
  const strength = createPlane(width, height).data
  const sample = new Float32Array(Math.ceil(strength.length / SAMPLED) + 1)
  let sampled = 0
  for (let y = 2; y < height - 2; y++) {
    for (let i = y * width + 2; i < (y + 1) * width - 2; i++) {
      strength[i] = gradientX.data[i] ** 2 + gradientY.data[i] ** 2
      // Every few pixels tell how strong gradients are; a step that no width divides keeps them from lining up.
      if (i % SAMPLED === 0) sample[sampled++] = strength[i]
    }
  }
  const sorted = sample.subarray(0, sampled).sort()
  const share = Math.min(0.5, MOST_POINTS / (width * height))
  const threshold = sorted[sampled - 1 - Math.floor(sampled * share)] ?? 0
  const points: number[] = []
  for (let i = 0; i < strength.length; i++) if (strength[i] > threshold) points.push(i)
  return Int32Array.from(points)
}

/** Fills value and gradient of the moved frame at each point; returns the places of the points that fall inside it. */
function sampleAt(fromCentre: Float32Array, frame: Level, motion: Similarity, samples: Float32Array, inside: Int32Array): Int32Array {
  const { width, height } = frame.image
  let count = 0
  const a = motion.scale * Math.cos(motion.rotation_rad)
  const b = motion.scale * Math.sin(motion.rotation_rad)
  const centreX = (width - 1) / 2
  const centreY = (height - 1) / 2
  const image = frame.image.data
  const gradientX = frame.gradientX.data
  const gradientY = frame.gradientY.data
  for (let k = 0, i = 0; k < fromCentre.length; k += 2, i++) {
    const px = fromCentre[k]
    const py = fromCentre[k + 1]
    const qx = a * px - b * py + motion.dx_px + centreX
    const qy = b * px + a * py + motion.dy_px + centreY
    if (!(qx >= 1 && qy >= 1 && qx < width - 2 && qy < height - 2)) continue
    const ix = qx | 0
    const iy = qy | 0
    const tx = qx - ix
    const ty = qy - iy
    const o = iy * width + ix
    const p = o + width
    const wd = tx * ty
    const wc = ty - wd
    const wb = tx - wd
    const wa = 1 - tx - wc
    samples[3 * i] = wa * image[o] + wb * image[o + 1] + wc * image[p] + wd * image[p + 1]
    samples[3 * i + 1] = wa * gradientX[o] + wb * gradientX[o + 1] + wc * gradientX[p] + wd * gradientX[p + 1]
    samples[3 * i + 2] = wa * gradientY[o] + wb * gradientY[o + 1] + wc * gradientY[p] + wd * gradientY[p + 1]
    inside[count++] = i
  }
  return inside.subarray(0, count)
}

/** Gain and offset that bring the samples to the reference, by equal mean and spread (symmetric in the two frames). */
function brightness(points: Int32Array, used: Int32Array, samples: Float32Array, reference: Float32Array) {
  let [sumS, sumR, sumSS, sumRR, sumSR] = [0, 0, 0, 0, 0]
  for (const i of used) {
    const s = samples[3 * i]
    const r = reference[points[i]]
    sumS += s
    sumR += r
    sumSS += s * s
    sumRR += r * r
    sumSR += s * r
  }
  const n = used.length
  const varS = Math.max(sumSS / n - (sumS / n) ** 2, 1e-12)
  const varR = Math.max(sumRR / n - (sumR / n) ** 2, 1e-12)
  const gain = Math.sqrt(varR / varS)
  return { gain, offset: sumR / n - (gain * sumS) / n, correlation: (sumSR / n - (sumS * sumR) / n ** 2) / Math.sqrt(varS * varR) }
}

function robustSpread(residuals: Float32Array, used: Int32Array): number {
  // Every few points tell the median well enough.
  const stride = Math.max(1, Math.floor(used.length / 3000))
  const magnitudes = new Float32Array(Math.floor(used.length / stride))
  for (let k = 0; k < magnitudes.length; k++) magnitudes[k] = Math.abs(residuals[used[k * stride]])
  magnitudes.sort()
  return Math.max(1.4826 * magnitudes[magnitudes.length >> 1], 1e-5)
}

/** One weighted least-squares step for (scale, rotation, dx, dy), as a motion applied before the present one. */
function gaussNewtonStep(
  fromCentre: Float32Array,
  used: Int32Array,
  samples: Float32Array,
  residuals: Float32Array,
  gain: number,
  spread: number,
  motion: Similarity,
  width: number,
): Similarity | undefined {
  const a = gain * motion.scale * Math.cos(motion.rotation_rad)
  const b = gain * motion.scale * Math.sin(motion.rotation_rad)
  // Coordinates divided by the half width keep the four columns of one size.
  const unit = 2 / width
  const cut = 1 / (3 * spread)
  // The normal equations' upper triangle and right side, in plain variables: this is the innermost loop of registration.
  let [ss, sr, sx, sy, rr, rx, ry, xx, xy, yy] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0]
  let [es, er, ex, ey] = [0, 0, 0, 0]
  for (let k = 0; k < used.length; k++) {
    const i = used[k]
    const e = residuals[i]
    const t = e * cut
    if (t >= 1 || t <= -1) continue
    const near = 1 - t * t
    const weight = near * near
    const fx = samples[3 * i + 1]
    const fy = samples[3 * i + 2]
    const gx = a * fx + b * fy
    const gy = a * fy - b * fx
    const x = fromCentre[2 * i] * unit
    const y = fromCentre[2 * i + 1] * unit
    const s = gx * x + gy * y
    const r = gy * x - gx * y
    const ws = weight * s
    const wr = weight * r
    const wx = weight * gx
    const wy = weight * gy
    ss += ws * s
    sr += ws * r
    sx += ws * gx
    sy += ws * gy
    rr += wr * r
    rx += wr * gx
    ry += wr * gy
    xx += wx * gx
    xy += wx * gy
    yy += wy * gy
    es -= ws * e
    er -= wr * e
    ex -= wx * e
    ey -= wy * e
  }
  const step = solve([
    Float64Array.of(ss, sr, sx, sy, es),
    Float64Array.of(sr, rr, rx, ry, er),
    Float64Array.of(sx, rx, xx, xy, ex),
    Float64Array.of(sy, ry, xy, yy, ey),
  ])
  if (!step) return undefined
  return { scale: 1 + step[0] * unit, rotation_rad: step[1] * unit, dx_px: step[2], dy_px: step[3] }
}

function withGradients(image: Plane): Level {
  const { width, height, data } = image
  const gradientX = createPlane(width, height)
  const gradientY = createPlane(width, height)
  for (let y = 1; y < height - 1; y++) {
    for (let i = y * width + 1; i < (y + 1) * width - 1; i++) {
      gradientX.data[i] = 0.5 * (data[i + 1] - data[i - 1])
      gradientY.data[i] = 0.5 * (data[i + width] - data[i - width])
    }
  }
  const points = strongestPoints(image, gradientX, gradientY)
  const fromCentre = new Float32Array(points.length * 2)
  points.forEach((point, k) => {
    fromCentre[2 * k] = (point % width) - (width - 1) / 2
    fromCentre[2 * k + 1] = Math.floor(point / width) - (height - 1) / 2
  })
  return { image, gradientX, gradientY, points, fromCentre }
}
