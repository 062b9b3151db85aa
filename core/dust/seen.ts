import { decoded, reduce, type Plane, type Rectangle, type Similarity } from '../raster'

/** Logarithms are kept in steps of this. */
export const LOG_PART = 1 / 4096

/** Encoded values as logarithms of the light that they stand for; so many steps of them, as all pixels are looked up. What is darker than the least is noise. */
const STEPS = 4096
const LEAST_VALUE = 2 / 255
const LIGHT_LOG = Float32Array.from({ length: STEPS + 1 }, (_, k) => Math.log(decoded(Math.max(LEAST_VALUE, k / STEPS))))

/** Logarithms of the light of encoded values, 0 … 1: a speck takes the same part of any light, but not of what encodes it. */
export function lightLogs({ data, ...size }: Plane): Plane {
  const logs = new Float32Array(data.length)
  // A loop: a call for each value takes several times as long.
  for (let i = 0; i < logs.length; i++) logs[i] = LIGHT_LOG[Math.min(STEPS, Math.max(0, Math.round(STEPS * data[i])))]
  return { ...size, data: logs }
}

/** Differences beyond this square are edges that came into focus; this much is noise. */
export const MOST_SQUARE = 0.2
export const NOISE_SQUARE = 5e-4

/** No wider than this is the whole sensor looked at. */
const COARSE_px = 400
/** The place in another frame that shows what a place of one does: (a x − b y + u, b x + a y + v). */
export interface Placing {
  a: number
  b: number
  u: number
  v: number
}

/** A frame's detail in steps of LOG_PART. */
export interface Logs {
  width: number
  height: number
  data: Int16Array
}

/** A frame's logarithms halved until they are no wider than the whole sensor is looked at. */
export function coarse({ width, height, data }: Logs): Logs {
  let plane: Plane = { width, height, data: new Float32Array(data) }
  while (plane.width > COARSE_px) plane = reduce(plane)
  return { ...plane, data: new Int16Array(plane.data) }
}

/** What a frame has more than another at each place of a part; NaN where the other does not show it. */
export function difference({ width, height, data: here }: Logs, { data: there }: Logs, placed: Placing, part: Rectangle, out: Float32Array): void {
  const { a, b, u, v } = placed
  out.fill(NaN)
  for (let row = 0; row < part.height; row++) {
    const y = part.y + row
    const [first, behind] = seenIn(placed, y, width, height)
    const from = Math.max(first, part.x)
    let qx = a * from - b * y + u
    let qy = b * from + a * y + v
    for (let x = from, i = row * part.width + from - part.x; x < Math.min(behind, part.x + part.width); x++, i++, qx += a, qy += b) {
      const x0 = qx | 0
      const y0 = qy | 0
      const tx = qx - x0
      const o = y0 * width + x0
      const above = there[o] + tx * (there[o + 1] - there[o])
      const below = there[o + width] + tx * (there[o + width + 1] - there[o + width])
      out[i] = (here[y * width + x] - above - (qy - y0) * (below - above)) * LOG_PART
    }
  }
}

/** From which to before which column of a row the other frame shows the same part of the subject, a little within its edges. */
export function seenIn({ a, b, u, v }: Placing, y: number, width: number, height: number): [number, number] {
  const [left, right] = within(a, u - b * y, 1, width - 2.5)
  const [top, bottom] = within(b, v + a * y, 1, height - 2.5)
  return [Math.max(0, Math.ceil(Math.max(left, top))), Math.min(width, Math.floor(Math.min(right, bottom)) + 1)]
}

/** Where `slope` · x + `start` lies from `least` to `most`. */
function within(slope: number, start: number, least: number, most: number): [number, number] {
  if (Math.abs(slope) < 1e-9) return start >= least && start <= most ? [-Infinity, Infinity] : [Infinity, -Infinity]
  const [one, other] = [(least - start) / slope, (most - start) / slope]
  return slope > 0 ? [one, other] : [other, one]
}

/** A motion about a picture's middle as places are counted from its first pixel. */
export function placing({ scale, rotation_rad, dx_px, dy_px }: Similarity, width: number, height: number): Placing {
  const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2]
  return { a, b, u: cx - a * cx + b * cy + dx_px, v: cy - b * cx - a * cy + dy_px }
}
