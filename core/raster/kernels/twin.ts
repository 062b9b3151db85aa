/**
 * The kernels in plain TypeScript: the reference that the compiled ones are compared with, and what runs where those
 * cannot. Planes are rows of one width; rows `from` … `to` (exclusive) of the result are made.
 */

/** Positions between two samples that cubic weights are kept for. */
export const PHASES = 1024

/** Columns that one vertical phase is taken for: a turn of half a degree moves them by 0.02 px. */
const GROUP = 4
/** Places are counted in phases from so far before the picture that they are never negative: one cut gives pixel and phase. */
const BEFORE = 16384

/**
 * Interleaved RGB samples to three planes, times `gain`, with one cubic interpolation at A p + start, p from the picture's
 * first pixel: down the columns first, each group of them at its own height, then along the row. Edges are repeated.
 * `buffers` and `parts` are where compiled threads keep their rows.
 */
export function warpSamples(
  samples: Uint8Array | Uint16Array,
  red: Float32Array,
  green: Float32Array,
  blue: Float32Array,
  width: number,
  height: number,
  a: number,
  b: number,
  startX: number,
  startY: number,
  gain: number,
  taps: Float32Array,
  _buffers: Float32Array,
  _parts: number,
  from: number,
  to: number,
): void {
  const line = new Float32Array(width * 3)
  const planes = [red, green, blue]
  for (let y = from; y < to; y++) {
    const rowX = startX - b * y
    const rowY = startY + a * y
    let v = (rowY + (b / a) * (1.5 - rowX) + BEFORE) * PHASES + 0.5
    for (let s = 0; s < width; s += GROUP, v += (b / a) * (GROUP * PHASES)) {
      const iy = ((v | 0) >> 10) - BEFORE
      const tap = ((v | 0) & (PHASES - 1)) * 4
      const rows = [-1, 0, 1, 2].map((k) => clamp(iy + k, height) * width * 3)
      for (let k = 3 * s; k < Math.min(3 * width, 3 * (s + GROUP)); k++) {
        let sum = 0
        for (let j = 0; j < 4; j++) sum += samples[rows[j] + k] * Math.fround(taps[tap + j] * gain)
        line[k] = sum
      }
    }
    for (let x = 0, u = (rowX + BEFORE) * PHASES + 0.5; x < width; x++, u += a * PHASES) {
      const ix = ((u | 0) >> 10) - BEFORE
      const tap = ((u | 0) & (PHASES - 1)) * 4
      const places = [-1, 0, 1, 2].map((k) => 3 * clamp(ix + k, width))
      planes.forEach((plane, c) => {
        let sum = 0
        for (let i = 0; i < 4; i++) sum += taps[tap + i] * line[places[i] + c]
        plane[y * width + x] = sum
      })
    }
  }
}

/** Rows of half the width, smoothed with 1 4 6 4 1, edges mirrored: the first half of a reduction. */
export function reduceRows(source: Float32Array, width: number, target: Float32Array, from: number, to: number): void {
  const half = (width + 1) >> 1
  for (let y = from; y < to; y++) {
    const row = y * width
    for (let x = 0; x < half; x++) {
      const c = 2 * x
      const i = row + c
      target[y * half + x] =
        c >= 2 && c < width - 2
          ? blend(source[i - 2], source[i - 1], source[i], source[i + 1], source[i + 2])
          : blend(
              source[row + mirror(c - 2, width)],
              source[row + mirror(c - 1, width)],
              source[row + mirror(c, width)],
              source[row + mirror(c + 1, width)],
              source[row + mirror(c + 2, width)],
            )
    }
  }
}

/** The second half of a reduction: every other row of `source` (half × height). */
export function reduceColumns(source: Float32Array, half: number, height: number, target: Float32Array, from: number, to: number): void {
  for (let y = from; y < to; y++) {
    const rows = [-2, -1, 0, 1, 2].map((k) => mirror(2 * y + k, height) * half)
    blendRows(source, rows, target, y * half, half)
  }
}

/** Rows of twice the width (of `width` places), interpolated: the first half of an expansion. */
export function expandRows(source: Float32Array, sourceWidth: number, target: Float32Array, width: number, from: number, to: number): void {
  for (let y = from; y < to; y++) {
    const row = y * sourceWidth
    for (let x = 0; x < width; x++) {
      const i = x >> 1
      const right = source[row + Math.min(i + 1, sourceWidth - 1)]
      const here = source[row + i]
      target[y * width + x] = x & 1 ? 0.5 * (here + right) : 0.125 * (source[row + Math.max(i - 1, 0)] + right) + 0.75 * here
    }
  }
}

/** What is done with an expanded plane: target = other − it, target += share × it, or target = it. */
export const EXPAND = { subtractFrom: 0, addShare: 1, write: 2 }

/** The second half of an expansion, of rows (width × sourceHeight). */
export function expandColumns(
  source: Float32Array,
  sourceHeight: number,
  other: Float32Array,
  target: Float32Array,
  width: number,
  mode: number,
  share: number,
  from: number,
  to: number,
): void {
  for (let y = from; y < to; y++) {
    const j = y >> 1
    const here = j * width
    const below = Math.min(j + 1, sourceHeight - 1) * width
    const above = Math.max(j - 1, 0) * width
    for (let x = 0, o = y * width; x < width; x++, o++) {
      const value = y & 1 ? 0.5 * (source[here + x] + source[below + x]) : 0.125 * (source[above + x] + source[below + x]) + 0.75 * source[here + x]
      if (mode === EXPAND.subtractFrom) target[o] = other[o] - value
      else if (mode === EXPAND.addShare) target[o] += share * value
      else target[o] = value
    }
  }
}

/** Binomial smoothing 1 4 6 4 1 (a Gaussian of σ = 1) along rows, edges repeated. */
export function smoothRows(source: Float32Array, width: number, target: Float32Array, from: number, to: number): void {
  for (let y = from; y < to; y++) {
    const o = y * width
    for (let x = 0; x < width; x++) {
      const i = o + x
      if (x >= 2 && x < width - 2) target[i] = blend(source[i - 2], source[i - 1], source[i], source[i + 1], source[i + 2])
      else {
        const at = (k: number) => source[o + clamp(x + k, width)]
        target[i] = blend(at(-2), at(-1), at(0), at(1), at(2))
      }
    }
  }
}

/** The same along columns. */
export function smoothColumns(source: Float32Array, width: number, height: number, target: Float32Array, from: number, to: number): void {
  for (let y = from; y < to; y++) {
    const rows = [-2, -1, 0, 1, 2].map((k) => clamp(y + k, height) * width)
    blendRows(source, rows, target, y * width, width)
  }
}

/** target = (first ? 0 : target) + band² / 3. */
export function addSquares(band: Float32Array, target: Float32Array, width: number, first: number, from: number, to: number): void {
  for (let i = from * width; i < to * width; i++) target[i] = (first ? 0 : target[i]) + band[i] ** 2 / 3
}

/** target += other. */
export function add(other: Float32Array, target: Float32Array, width: number, from: number, to: number): void {
  for (let i = from * width; i < to * width; i++) target[i] += other[i]
}

/** plane = (plane × scale + 1) to a whole power. */
export function raise(plane: Float32Array, width: number, scale: number, power: number, from: number, to: number): void {
  for (let i = from * width; i < to * width; i++) {
    const ratio = plane[i] * scale + 1
    let weight = ratio
    for (let k = 1; k < power; k++) weight *= ratio
    plane[i] = weight
  }
}

/** sum += band × weight. */
export function addWeighted(band: Float32Array, weight: Float32Array, sum: Float32Array, width: number, from: number, to: number): void {
  for (let i = from * width; i < to * width; i++) sum[i] += band[i] * weight[i]
}

/** sum = sum / weight. */
export function divide(sum: Float32Array, weight: Float32Array, width: number, from: number, to: number): void {
  for (let i = from * width; i < to * width; i++) sum[i] /= weight[i]
}

/** Where `weight` is the most so far: keeps it and the frame's index; index × weight is summed. */
export function choose(
  weight: Float32Array,
  best: Float32Array,
  source: Float32Array,
  weightedIndex: Float32Array,
  width: number,
  index: number,
  from: number,
  to: number,
): void {
  for (let i = from * width; i < to * width; i++) {
    if (weight[i] > best[i]) {
      best[i] = weight[i]
      source[i] = index
    }
    weightedIndex[i] += weight[i] * index
  }
}

function blend(a: number, b: number, c: number, d: number, e: number): number {
  return (a + e + 4 * (b + d) + 6 * c) * 0.0625
}

function blendRows(source: Float32Array, [a, b, c, d, e]: number[], target: Float32Array, out: number, count: number): void {
  for (let x = 0; x < count; x++) target[out + x] = blend(source[a + x], source[b + x], source[c + x], source[d + x], source[e + x])
}

export function clamp(index: number, size: number): number {
  return index < 0 ? 0 : index >= size ? size - 1 : index
}

function mirror(index: number, size: number): number {
  if (size === 1) return 0
  const folded = index < 0 ? -index : index >= size ? 2 * size - 2 - index : index
  return Math.min(Math.max(folded, 0), size - 1)
}
