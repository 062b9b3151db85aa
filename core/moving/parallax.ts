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

/**
 * The later of two frames as it would look had the camera not been pushed aside between them; nothing where it was not. A camera
 * that is pushed sees what is near move more than what is far: displacements that go evenly with the depth, whatever the place, beside a
 * small rest of the motion (robust least squares; Lucas & Kanade, 1981). What moves by itself has neighbours at its depth that do not.
 *
 * `depth` is in places of the series from midway between the two frames; `inside` says what both frames show.
 */
export function withoutParallax(earlier: Plane, later: Plane, depth: Plane, inside: (x: number, y: number) => boolean): Plane | undefined {
  const { width, height } = earlier
  const [a, b] = [blurred(earlier, SOFTENED_px), blurred(later, SOFTENED_px)]
  const half = width / 2
  const places: number[] = []
  for (let y = 1; y < height - 1; y++)
    for (let x = 1 + (y % EVERY), i = y * width + x; x < width - 1; x += EVERY, i += EVERY)
      if (inside(x, y) && Math.hypot(gradientX(a, i), gradientY(a, i)) > LEAST_GRADIENT) places.push(i)
  if (places.length < 200) return undefined
  const motion = new Float64Array(6)
  const shiftOf = (i: number): [number, number] => {
    const [x, y, q] = [((i % width) - half) / half, (Math.floor(i / width) - height / 2) / half, depth.data[i]]
    return [motion[0] * x - motion[1] * y + motion[2] + motion[4] * q, motion[0] * y + motion[1] * x + motion[3] + motion[5] * q]
  }
  const light = lightBetween(a, b)
  for (let round = 0; round < ROUNDS; round++) {
    const residuals = Float32Array.from(places, (i) => {
      const [dx, dy] = shiftOf(i)
      return a.data[i] - light.data[i] - bilinear(b, (i % width) + dx, Math.floor(i / width) + dy)
    })
    const spread = 1.4826 * Float32Array.from(residuals, Math.abs).sort()[residuals.length >> 1] + 1e-6
    const rows = Array.from({ length: 6 }, () => new Float64Array(7))
    places.forEach((i, n) => {
      const far = residuals[n] / (FAR * spread)
      if (Math.abs(far) >= 1) return
      const weight = (1 - far * far) ** 2
      const [gx, gy] = [gradientX(a, i), gradientY(a, i)]
      const [x, y, q] = [((i % width) - half) / half, (Math.floor(i / width) - height / 2) / half, depth.data[i]]
      const column = [gx * x + gy * y, gy * x - gx * y, gx, gy, gx * q, gy * q]
      for (let r = 0; r < 6; r++) {
        for (let c = 0; c < 6; c++) rows[r][c] += weight * column[r] * column[c]
        rows[r][6] += weight * column[r] * residuals[n]
      }
    })
    // What nothing tells of stays as it is.
    for (let r = 0; r < 6; r++) rows[r][r] += 1e-3 / 255 ** 2 + 1e-6 * rows[r][r]
    const step = solve(rows)
    if (!step) return undefined
    step.forEach((value, k) => (motion[k] += value))
  }
  const deepest = places.reduce((most, i) => Math.max(most, Math.abs(depth.data[i])), 0)
  if (Math.hypot(motion[4], motion[5]) * deepest < LEAST_px) return undefined
  const out = createPlane(width, height)
  for (let i = 0; i < out.data.length; i++) {
    const [dx, dy] = shiftOf(i)
    out.data[i] = bilinear(later, (i % width) + dx, Math.floor(i / width) + dy)
  }
  return out
}

const gradientX = ({ data }: Plane, i: number) => (data[i + 1] - data[i - 1]) / 2
const gradientY = ({ data, width }: Plane, i: number) => (data[i + width] - data[i - width]) / 2

function lightBetween(a: Plane, b: Plane): Plane {
  const difference = createPlane(a.width, a.height)
  for (let i = 0; i < difference.data.length; i++) difference.data[i] = a.data[i] - b.data[i]
  return blurred(difference, LIGHT_px)
}
