import { clamp, floats } from './memory'

/** Positions between two rows that whole cubic weights are kept for. */
export const PHASES = 1024

/** Columns that one vertical phase is taken for: a turn of half a degree moves their ends by 0.035 px. */
export const GROUP = 8
/** Rows that lie between two of a bend's net. */
export const NET_ROWS = 16
/** Whole weights are counted in so many parts of one. */
export const WHOLE = 16384
/** Places are counted in phases from so far before the picture that none is negative, with bits of fraction below. */
const BEFORE = 16384
const FRACTION = 2 ** 20

/** Where a warp reads: the place of the first pixel, and how it moves from one pixel to the next and from row to row. */
export interface Reading {
  startU: number
  acrossU: number
  downU: number
  startV: number
  acrossV: number
  downV: number
}

/**
 * Reading a frame at A p + start, p from the picture's first pixel, A = scale · turn = (a, −b; b, a), down the columns
 * first: each group of them at its own height, where the row afterwards read will cross it. Whole numbers, so that every
 * part and every machine reads at the same places.
 */
export function readingOf(a: number, b: number, startX: number, startY: number): Reading {
  const slope = b / a
  const counted = (px: number) => Math.round(px * PHASES * FRACTION)
  const middle = (GROUP - 1) / 2
  // Down the columns the nearest phase is taken, hence half of one more.
  return {
    startU: counted(startX + BEFORE),
    acrossU: counted(a),
    downU: counted(-b),
    startV: counted(startY + slope * (middle - startX) + BEFORE) + FRACTION / 2,
    acrossV: counted(slope),
    downV: counted(a + slope * b),
  }
}

const samplesAt = (memory: ArrayBuffer, at: number, wide: number) => (wide ? new Uint16Array(memory, at) : new Uint8Array(memory, at))

/** Keys' cubic convolution weights (1981) of four samples, `t` of the way from the second to the third. */
export function cubicWeights(t: number, sharpness: number): [number, number, number, number] {
  const [t2, t3] = [t * t, t * t * t]
  const first = sharpness * (t3 - 2 * t2 + t)
  const second = (sharpness + 2) * t3 - (sharpness + 3) * t2 + 1
  const last = sharpness * (t2 - t3)
  return [first, second, 1 - first - second - last, last]
}

/**
 * Interleaved RGB samples to three planes of u16, times `gain`, with one cubic interpolation at the places of a
 * {@link Reading}: down the columns first, then along the row. Edges are repeated. `wide` where samples have 16 bits.
 * `tapsAt` holds the weights of each phase as i16 in parts of WHOLE, which columns are weighed by. Where `bendsAt` is not 0,
 * the net of a bend lies there (see bendNet), which is added to the places.
 */
export function warpSamples(
  memory: ArrayBuffer,
  at: number,
  wide: number,
  red: number,
  green: number,
  blue: number,
  stride: number,
  width: number,
  height: number,
  startU: number,
  acrossU: number,
  downU: number,
  startV: number,
  acrossV: number,
  downV: number,
  gain: number,
  sharpness: number,
  tapsAt: number,
  bendsAt: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const samples = samplesAt(memory, at, wide)
  const planes = [red, green, blue].map((plane) => new Uint16Array(memory, plane))
  const taps = new Int16Array(memory, tapsAt)
  const line = new Float32Array(width * 3)
  const bent = bending(memory, bendsAt, width, height)
  for (let y = from; y < to; y++) {
    for (let s = 0; s < width; s += GROUP) {
      const phases = Math.floor((startV + downV * y + acrossV * s + Math.trunc(bent.down(s, y) * PHASES * FRACTION)) / FRACTION)
      const tap = (phases & (PHASES - 1)) * 4
      const rows = [-1, 0, 1, 2].map((k) => clamp((phases >> 10) - BEFORE + k, height) * width * 3)
      for (let k = 3 * s; k < Math.min(3 * width, 3 * (s + GROUP)); k++) {
        let sum = 0
        for (let j = 0; j < 4; j++) sum += samples[rows[j] + k] * taps[tap + j]
        line[k] = sum
      }
    }
    for (let x = 0; x < width; x++) {
      const place = (startU + downU * y + acrossU * x) / (FRACTION * PHASES) + bent.along(x, y)
      const weights = cubicWeights(place - Math.floor(place), sharpness)
      const places = [-1, 0, 1, 2].map((k) => 3 * clamp(Math.floor(place) - BEFORE + k, width))
      planes.forEach((plane, c) => {
        const sum = weights.reduce((all, weight, i) => all + weight * line[places[i] + c], 0)
        plane[y * stride + x] = Math.min(65535, Math.max(0, Math.round(sum * gain)))
      })
    }
  }
}

/** What a bend adds to the places that are read, along the rows and down the columns, from its net (see bendNet). */
function bending(memory: ArrayBuffer, at: number, width: number, height: number) {
  if (at === 0) return { along: () => 0, down: () => 0 }
  const [columns, rows] = [Math.ceil(width / GROUP) + 1, Math.ceil(height / NET_ROWS) + 1]
  const net = new Float32Array(memory, at, 2 * columns * rows)
  // Rounded as the compiled kernel's floats are: a phase more or less would show in rough pictures.
  const { fround } = Math
  const between = (o: number, y: number) => fround(net[o] + fround(((y % NET_ROWS) / NET_ROWS) * fround(net[o + columns] - net[o])))
  return {
    along: (x: number, y: number) => {
      const o = Math.floor(y / NET_ROWS) * columns + Math.floor(x / GROUP)
      const here = between(o, y)
      return here + ((x % GROUP) / GROUP) * (between(o + 1, y) - here)
    },
    down: (s: number, y: number) => between(columns * rows + Math.floor(y / NET_ROWS) * columns + s / GROUP, y),
  }
}

/** Light of an sRGB-encoded value, near enough (within 0.002). */
export const lightOf = (v: number) => v * (v * (v * 0.305306011 + 0.682171111) + 0.012522878)

/** Luma of interleaved RGB samples: in linear light, in which blur spreads evenly to both sides of an edge, or of the samples as they are encoded. */
export function luma(
  memory: ArrayBuffer,
  at: number,
  wide: number,
  encoded: number,
  target: number,
  stride: number,
  width: number,
  from: number,
  to: number,
): void {
  const samples = samplesAt(memory, at, wide)
  const out = floats(memory, target)
  const unit = 1 / (wide ? 65535 : 255)
  const value = (s: number) => (encoded ? samples[s] * unit : lightOf(samples[s] * unit))
  for (let y = from; y < to; y++)
    for (let x = 0, s = y * width * 3; x < width; x++, s += 3) out[y * stride + x] = 0.2126 * value(s) + 0.7152 * value(s + 1) + 0.0722 * value(s + 2)
}

/** A rectangle of three planes of u16, from `left`, `top` on, as interleaved samples without padding. */
export function interleave(
  memory: ArrayBuffer,
  red: number,
  green: number,
  blue: number,
  stride: number,
  left: number,
  top: number,
  width: number,
  out: number,
  from: number,
  to: number,
): void {
  const samples = new Uint16Array(memory, out)
  for (const [channel, at] of [red, green, blue].entries()) {
    const plane = new Uint16Array(memory, at)
    for (let y = from; y < to; y++) for (let x = 0; x < width; x++) samples[3 * (y * width + x) + channel] = plane[(top + y) * stride + left + x]
  }
}
