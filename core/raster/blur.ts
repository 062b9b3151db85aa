import { clamp } from './kernels/twin/memory'
import { createPlane, type Plane } from './plane'

/** Up to this σ, in px, a Gaussian is so narrow that it is summed tap by tap. */
const NARROW_px = 1.6
/** Running means that come near enough to a Gaussian. */
const PASSES = 3

/** A plane blurred by a Gaussian of σ px, edges repeated; wide ones by three running means, whatever their width for the same time, and σ² within a tenth. */
export function blurred(plane: Plane, sigma_px: number): Plane {
  if (sigma_px <= 0) return plane
  if (sigma_px <= NARROW_px) return byTaps(plane, sigma_px)
  // Odd widths, so many narrower ones that the variances add up to the Gaussian's.
  const ideal = Math.sqrt((12 * sigma_px ** 2) / PASSES + 1)
  const narrow = 2 * Math.floor((ideal - 1) / 2) + 1
  const narrower = Math.round((12 * sigma_px ** 2 - PASSES * (narrow ** 2 + 4 * narrow + 3)) / (-4 * narrow - 4))
  let out = plane
  for (let pass = 0; pass < PASSES; pass++) out = runningMean(out, ((pass < narrower ? narrow : narrow + 2) - 1) / 2)
  return out
}

function byTaps(plane: Plane, sigma_px: number): Plane {
  const reach = Math.ceil(3 * sigma_px)
  const taps = Float32Array.from({ length: reach + 1 }, (_, k) => Math.exp(-0.5 * (k / sigma_px) ** 2))
  const sum = taps.reduce((all, tap, k) => all + (k === 0 ? tap : 2 * tap), 0)
  taps.forEach((tap, k) => (taps[k] = tap / sum))
  const { width, height, data } = plane
  const out = createPlane(width, height)
  const line = new Float32Array(width + 2 * reach)
  for (let y = 0; y < height; y++) {
    const row = line.subarray(reach, reach + width).fill(0)
    for (let k = -reach; k <= reach; k++) {
      const tap = taps[Math.abs(k)]
      const from = clamp(y + k, height) * width
      for (let x = 0; x < width; x++) row[x] += tap * data[from + x]
    }
    line.fill(row[0], 0, reach)
    line.fill(row[width - 1], reach + width)
    for (let x = 0, o = y * width; x < width; x++, o++) {
      let value = taps[0] * line[x + reach]
      for (let k = 1; k <= reach; k++) value += taps[k] * (line[x + reach - k] + line[x + reach + k])
      out.data[o] = value
    }
  }
  return out
}

/** The mean of 2 · reach + 1 places along both sides, edges repeated. */
export function runningMean({ width, height, data }: Plane, reach: number): Plane {
  const across = new Float32Array(width * height)
  const share = 1 / (2 * reach + 1)
  // A row with its ends repeated: nothing has to be held to the edges while it is summed.
  const line = new Float32Array(width + 2 * reach + 1)
  for (let y = 0; y < height; y++) {
    const row = data.subarray(y * width, (y + 1) * width)
    line.fill(row[0], 0, reach)
    line.set(row, reach)
    line.fill(row[width - 1], reach + width)
    meansOf(line, across, y * width, width, 2 * reach + 1, share)
  }
  const out = createPlane(width, height)
  const sums = new Float64Array(width)
  for (let k = -reach; k <= reach; k++) {
    const from = clamp(k, height) * width
    for (let x = 0; x < width; x++) sums[x] += across[from + x]
  }
  for (let y = 0; y < height; y++) {
    const [enters, leaves] = [clamp(y + reach + 1, height) * width, clamp(y - reach, height) * width]
    for (let x = 0, o = y * width; x < width; x++, o++) {
      out.data[o] = sums[x] * share
      sums[x] += across[enters + x] - across[leaves + x]
    }
  }
  return out
}

/** Means of each `count` places of a line that follow one another. */
function meansOf(line: Float32Array, out: Float32Array, from: number, width: number, count: number, share: number): void {
  let sum = 0
  for (let k = 0; k < count; k++) sum += line[k]
  for (let x = 0; x < width; x++) {
    out[from + x] = sum * share
    sum += line[x + count] - line[x]
  }
}
