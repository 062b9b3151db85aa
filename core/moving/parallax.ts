import { bilinear, blurred, createPlane, type Plane } from '../raster'
import { solve } from '../register'

/** Both frames are softened by this σ, px: they differ in blur. */
const SOFTENED_px = 1.5
/** Brightness that differs over more than this, σ in px, is light. */
const LIGHT_px = 16
const ROUNDS = 4
/** Gradients below this, of 0 … 1 a px, tell nothing. */
const LEAST_GRADIENT = 1 / 255
/** Tukey's biweight ends at so many deviations. */
const FAR = 4.7
/** One place in so many is asked. */
const EVERY = 5
/** Nothing moved by less, in px, is worth another look. */
const LEAST_px = 0.25
/** Fewer places tell nothing. */
const LEAST_PLACES = 200

/**
 * The later of two frames as it would look had the camera not been pushed aside between them; nothing where it was not. A camera
 * that is pushed sees what is near move more than what is far: displacements that go evenly with the depth, whatever the place, beside a
 * small rest of the motion (robust least squares; Lucas & Kanade, 1981). What moves by itself has neighbours at its depth that do not.
 *
 * `depth` is in places of the series from midway between the two frames; `inside` says what both frames show.
 */
export function withoutParallax(earlier: Plane, later: Plane, depth: Plane, inside: (x: number, y: number) => boolean): Plane | undefined {
  const [a, b] = [blurred(earlier, SOFTENED_px), blurred(later, SOFTENED_px)]
  const places = placesIn(a, lightBetween(a, b), depth, inside)
  if (places.count < LEAST_PLACES) return undefined
  const motion = new Float64Array(6)
  for (let round = 0; round < ROUNDS; round++) {
    const step = stepFrom(places, b, motion)
    if (!step) return undefined
    step.forEach((value, k) => (motion[k] += value))
  }
  const deepest = places.depth.reduce((most, q) => Math.max(most, Math.abs(q)), 0)
  return Math.hypot(motion[4], motion[5]) * deepest < LEAST_px ? undefined : shifted(later, depth, motion)
}

/** The places that are asked, with what the earlier frame shows there: from the middle in halves of the width, depth, gradient, and brightness without light. */
interface Places {
  count: number
  column: Float64Array
  row: Float64Array
  x: Float64Array
  y: Float64Array
  depth: Float64Array
  gradientX: Float64Array
  gradientY: Float64Array
  brightness: Float64Array
}

function placesIn(frame: Plane, light: Plane, depth: Plane, inside: (x: number, y: number) => boolean): Places {
  const { width, height, data } = frame
  const half = width / 2
  const most = Math.ceil((width * height) / EVERY) + height
  const room = () => new Float64Array(most)
  const all = { column: room(), row: room(), x: room(), y: room(), depth: room(), gradientX: room(), gradientY: room(), brightness: room() }
  let n = 0
  for (let y = 1; y < height - 1; y++)
    for (let x = 1 + (y % EVERY), i = y * width + x; x < width - 1; x += EVERY, i += EVERY) {
      const [gx, gy] = [(data[i + 1] - data[i - 1]) / 2, (data[i + width] - data[i - width]) / 2]
      if (gx * gx + gy * gy <= LEAST_GRADIENT ** 2 || !inside(x, y)) continue
      all.column[n] = x
      all.row[n] = y
      all.x[n] = (x - half) / half
      all.y[n] = (y - height / 2) / half
      all.depth[n] = depth.data[i]
      all.gradientX[n] = gx
      all.gradientY[n] = gy
      all.brightness[n++] = data[i] - light.data[i]
    }
  const kept = Object.fromEntries(Object.entries(all).map(([name, values]) => [name, values.subarray(0, n)])) as typeof all
  return { count: n, ...kept }
}

/** What the motion, a similarity and how it goes with the depth, is to be changed by; undefined where nothing tells it. */
function stepFrom(places: Places, later: Plane, motion: Float64Array): Float64Array | undefined {
  const { count, column, row, x, y, depth, gradientX, gradientY, brightness } = places
  const residuals = new Float32Array(count)
  for (let n = 0; n < count; n++) {
    const dx = motion[0] * x[n] - motion[1] * y[n] + motion[2] + motion[4] * depth[n]
    const dy = motion[0] * y[n] + motion[1] * x[n] + motion[3] + motion[5] * depth[n]
    residuals[n] = brightness[n] - bilinear(later, column[n] + dx, row[n] + dy)
  }
  const spread = 1.4826 * residuals.map(Math.abs).sort()[count >> 1] + 1e-6
  const rows = Array.from({ length: 6 }, () => new Float64Array(7))
  const entries = new Float64Array(7)
  for (let n = 0; n < count; n++) {
    const far = residuals[n] / (FAR * spread)
    if (Math.abs(far) >= 1) continue
    const weight = (1 - far * far) ** 2
    const [gx, gy] = [gradientX[n], gradientY[n]]
    entries[0] = gx * x[n] + gy * y[n]
    entries[1] = gy * x[n] - gx * y[n]
    entries[2] = gx
    entries[3] = gy
    entries[4] = gx * depth[n]
    entries[5] = gy * depth[n]
    entries[6] = residuals[n]
    for (let r = 0; r < 6; r++) {
      const share = weight * entries[r]
      for (let c = 0; c < 7; c++) rows[r][c] += share * entries[c]
    }
  }
  // What nothing tells of stays as it is.
  for (let r = 0; r < 6; r++) rows[r][r] += 1e-3 / 255 ** 2 + 1e-6 * rows[r][r]
  return solve(rows)
}

/** A frame with each place read from where the motion leads. */
function shifted(frame: Plane, depth: Plane, motion: Float64Array): Plane {
  const { width, height } = frame
  const half = width / 2
  const out = createPlane(width, height)
  for (let row = 0, i = 0; row < height; row++) {
    const y = (row - height / 2) / half
    for (let column = 0; column < width; column++, i++) {
      const [x, q] = [(column - half) / half, depth.data[i]]
      const dx = motion[0] * x - motion[1] * y + motion[2] + motion[4] * q
      const dy = motion[0] * y + motion[1] * x + motion[3] + motion[5] * q
      out.data[i] = bilinear(frame, column + dx, row + dy)
    }
  }
  return out
}

function lightBetween(a: Plane, b: Plane): Plane {
  const difference = createPlane(a.width, a.height)
  for (let i = 0; i < difference.data.length; i++) difference.data[i] = a.data[i] - b.data[i]
  return blurred(difference, LIGHT_px)
}
