/** Light on a grid, four values a place (red, green, blue, alpha). Until it is summed it holds the ends of rows only. */
export interface LightGrid {
  width: number
  height: number
  /** (width + 2) × height × 4. */
  ends: Float32Array
  /** For each row, the first place that light fell on and the one behind the last: most surfaces cover little of it. */
  touched: Int32Array
}

/** A disc as rows: where each begins and ends, in whole places and parts, relative to its middle. */
export interface Disc {
  reach: number
  /** For each row from −reach: first place, its missing part, place behind the last, its part. */
  rows: Float32Array
  /** One over the area. */
  weight: number
}

const STEPS = 16

/** Discs by radius, made when first asked for, in steps of a sixteenth of a place. */
export class Discs {
  private readonly made: Disc[] = []

  of(radius: number): Disc {
    const step = Math.max(0, Math.round(radius * STEPS))
    return (this.made[step] ??= makeDisc(step / STEPS))
  }
}

function makeDisc(radius: number): Disc {
  const reach = radius <= 0.5 ? 0 : Math.ceil(radius)
  const rows = new Float32Array((2 * reach + 1) * 4)
  let area = 0
  for (let dy = -reach, i = 0; dy <= reach; dy++, i += 4) {
    const half = reach === 0 ? 0.5 : meanHalfWidth(dy, radius)
    const [left, right] = [0.5 - half, 0.5 + half]
    rows[i] = Math.floor(left)
    rows[i + 1] = left - rows[i]
    rows[i + 2] = Math.floor(right)
    rows[i + 3] = right - rows[i + 2]
    area += 2 * half
  }
  return { reach, rows, weight: 1 / area }
}

/** Mean half width of the disc over one row of places. */
function meanHalfWidth(dy: number, radius: number): number {
  let sum = 0
  for (let k = 0; k < 4; k++) sum += Math.sqrt(Math.max(0, radius ** 2 - (dy + (k + 0.5) / 4 - 0.5) ** 2))
  return sum / 4
}

export function createLightGrid(width: number, height: number): LightGrid {
  const grid = { width, height, ends: new Float32Array((width + 2) * height * 4), touched: new Int32Array(height * 2) }
  forget(grid)
  return grid
}

/** Makes a grid dark again. */
export function clearGrid(grid: LightGrid): void {
  const { width, height, ends, touched } = grid
  for (let y = 0; y < height; y++) {
    const row = y * (width + 2)
    if (touched[2 * y + 1] > touched[2 * y]) ends.fill(0, (row + touched[2 * y]) * 4, (row + touched[2 * y + 1] + 2) * 4)
  }
  forget(grid)
}

function forget({ width, height, touched }: LightGrid): void {
  for (let y = 0; y < height; y++) {
    touched[2 * y] = width
    touched[2 * y + 1] = 0
  }
}

/**
 * Adds the light of one place, spread evenly over a disc about (x, y). Only where rows begin and end is noted, so a disc
 * costs its height, not its area (the difference form of a running sum; compare Crow, 1984).
 */
export function spread(
  { width, height, ends, touched }: LightGrid,
  x: number,
  y: number,
  { reach, rows, weight }: Disc,
  light: Float32Array,
  at: number,
): void {
  const red = light[at] * weight
  const green = light[at + 1] * weight
  const blue = light[at + 2] * weight
  const alpha = light[at + 3] * weight
  const stride = (width + 2) * 4
  const first = Math.max(0, y - reach)
  const last = Math.min(height - 1, y + reach)
  for (let row = first; row <= last; row++) {
    const k = (row - y + reach) * 4
    let left = x + rows[k]
    let right = x + rows[k + 2]
    if (right < 0 || left >= width) continue
    let missing = rows[k + 1]
    let part = rows[k + 3]
    if (left < 0) {
      // The part of a place that a row begins with lies outside, unless it is the one just before the first.
      missing = left === -1 ? missing - 1 : 0
      left = 0
      if (missing < 0) missing = 0
    }
    if (right >= width) {
      right = width
      part = 0
    }
    if (left < touched[2 * row]) touched[2 * row] = left
    if (right + 1 > touched[2 * row + 1]) touched[2 * row + 1] = Math.min(width, right + 1)
    const base = row * stride
    let i = base + left * 4
    const whole = 1 - missing
    ends[i] += red * whole
    ends[i + 1] += green * whole
    ends[i + 2] += blue * whole
    ends[i + 3] += alpha * whole
    if (missing !== 0) {
      ends[i + 4] += red * missing
      ends[i + 5] += green * missing
      ends[i + 6] += blue * missing
      ends[i + 7] += alpha * missing
    }
    i = base + right * 4
    const rest = 1 - part
    ends[i] -= red * rest
    ends[i + 1] -= green * rest
    ends[i + 2] -= blue * rest
    ends[i + 3] -= alpha * rest
    if (part !== 0) {
      ends[i + 4] -= red * part
      ends[i + 5] -= green * part
      ends[i + 6] -= blue * part
      ends[i + 7] -= alpha * part
    }
  }
}

/** Turns the ends of rows into the light itself, in place. */
export function sumRows({ width, height, ends, touched }: LightGrid): void {
  const stride = (width + 2) * 4
  for (let y = 0; y < height; y++) {
    const row = y * stride
    let red = 0
    let green = 0
    let blue = 0
    let alpha = 0
    for (let i = row + touched[2 * y] * 4; i < row + touched[2 * y + 1] * 4; i += 4) {
      ends[i] = red += ends[i]
      ends[i + 1] = green += ends[i + 1]
      ends[i + 2] = blue += ends[i + 2]
      ends[i + 3] = alpha += ends[i + 3]
    }
    // What is left behind the last place are ends of rows that reach beyond it.
    ends.fill(0, row + touched[2 * y + 1] * 4, row + Math.min(width + 2, touched[2 * y + 1] + 2) * 4)
  }
}
