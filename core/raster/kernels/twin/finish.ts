import { DARKEST_exponent, FADE_steps, OPERATION_words, PIECES_bits, TONE_steps } from '../finishing'
import { floats } from './memory'

const SHIFT = 23 - PIECES_bits
const FIRST = DARKEST_exponent << PIECES_bits

/**
 * Interleaved RGB of 16 bits brought to light, changed pixel by pixel, and brought back; rows lie one after the other. `light` has the light of
 * each sample, `back` samples by light. `top` is where the first row lies in the whole picture. Where `lights` is a place, light is
 * written there as f32 instead, and the samples stay.
 */
export function finishRows(
  memory: ArrayBuffer,
  samples: number,
  width: number,
  top: number,
  light: number,
  back: number,
  program: number,
  count: number,
  lights: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const [whole, lightOf, table] = [new Uint16Array(memory, samples), floats(memory, light), floats(memory, back)]
  const row = new Float32Array(3 * width)
  const bits = new Int32Array(row.buffer)
  const words = new Int32Array(memory, program, count * OPERATION_words)
  const reals = new Float32Array(memory, program, count * OPERATION_words)
  for (let y = from; y < to; y++) {
    for (let i = 0; i < row.length; i++) row[i] = lightOf[whole[3 * y * width + i]]
    for (let k = 0; k < count; k++)
      operate(memory, words.subarray(k * OPERATION_words), reals.subarray(k * OPERATION_words), row, { y: top + y, mapRow: y, width })
    if (lights) {
      floats(memory, lights).set(row, 3 * y * width)
      continue
    }
    for (let i = 0; i < row.length; i++) {
      const piece = (bits[i] >> SHIFT) - FIRST
      if (row[i] >= 1) whole[3 * y * width + i] = 65535
      else if (piece < 0) whole[3 * y * width + i] = 0
      else whole[3 * y * width + i] = table[piece] + (bits[i] & ((1 << SHIFT) - 1)) * (1 / (1 << SHIFT)) * (table[piece + 1] - table[piece]) + 0.5
    }
  }
}

interface Row {
  y: number
  mapRow: number
  width: number
}

function operate(memory: ArrayBuffer, words: Int32Array, reals: Float32Array, row: Float32Array, { y, mapRow, width }: Row): void {
  const [r, g, b] = reals.subarray(1, 4)
  const scaled = (x: number, gain: number) => {
    for (let c = 3 * x; c < 3 * x + 3; c++) row[c] *= gain
  }
  const luminance = (x: number) => r * row[3 * x] + g * row[3 * x + 1] + b * row[3 * x + 2]
  const faded = (t: number) => {
    const table = floats(memory, words[4])
    const place = Math.min(1, Math.max(0, t)) * FADE_steps
    const step = Math.floor(place)
    return table[step] + (place - step) * (table[step + 1] - table[step])
  }
  const eachPixel = (work: (x: number) => void) => {
    for (let x = 0; x < width; x++) work(x)
  }
  switch (words[0]) {
    case 0:
      return eachPixel((x) => {
        for (let c = 0; c < 3; c++) row[3 * x + c] *= reals[4 + c]
      })
    case 1: {
      const table = floats(memory, words[4])
      return eachPixel((x) => {
        const place = Math.sqrt(Math.sqrt(Math.min(1, Math.max(0, luminance(x))))) * TONE_steps
        const step = Math.floor(place)
        scaled(x, table[step] + (place - step) * (table[step + 1] - table[step]))
      })
    }
    case 2:
      return eachPixel((x) => {
        const grey = luminance(x)
        for (let c = 3 * x; c < 3 * x + 3; c++) row[c] = grey + reals[4] * (row[c] - grey)
      })
    case 3:
      return eachPixel((x) => scaled(x, faded(reals[5] + x * reals[6] + y * reals[7])))
    case 4: {
      const map = new Uint16Array(memory, words[5])
      return eachPixel((x) => scaled(x, faded(reals[6] + map[mapRow * width + x] * reals[7])))
    }
    default: {
      const [, left, top, across, down] = words.subarray(4, 9)
      const map = floats(memory, words[4])
      if (y < top || y >= top + down) return
      for (let x = 0; x < across; x++) scaled(left + x, map[(y - top) * across + x])
    }
  }
}

/** Luminance of interleaved samples, 0 … 1, into a plane. */
export function luminance(
  memory: ArrayBuffer,
  samples: number,
  width: number,
  red: number,
  green: number,
  blue: number,
  target: number,
  stride: number,
  from: number,
  to: number,
): void {
  const [whole, out] = [new Uint16Array(memory, samples), floats(memory, target)]
  for (let y = from; y < to; y++)
    for (let x = 0, i = 3 * y * width; x < width; x++, i += 3)
      out[y * stride + x] = (red * whole[i] + green * whole[i + 1] + blue * whole[i + 2]) / 65535
}

/**
 * Raises by `amount` what of the luminance lies off the softened one by more than the threshold, alike in red, green and blue; `confidence` is a map of
 * 16 bits, or 0 where all is sure.
 */
export function sharpenRows(
  memory: ArrayBuffer,
  samples: number,
  width: number,
  plain: number,
  soft: number,
  stride: number,
  amount: number,
  threshold: number,
  confidence: number,
  from: number,
  to: number,
): void {
  const [whole, luma, softened] = [new Uint16Array(memory, samples), floats(memory, plain), floats(memory, soft)]
  const sure = confidence ? new Uint16Array(memory, confidence) : undefined
  for (let y = from; y < to; y++)
    for (let x = 0, i = 3 * y * width; x < width; x++, i += 3) {
      const off = luma[y * stride + x] - softened[y * stride + x]
      const beyond = Math.abs(off) - threshold
      if (beyond <= 0) continue
      const add = 65535 * amount * (sure ? sure[y * width + x] / 65535 : 1) * (off > 0 ? beyond : -beyond) + 0.5
      for (let c = i; c < i + 3; c++) whole[c] = Math.min(65535, Math.max(0, whole[c] + add))
    }
}
