import { IDENTITY, type Rectangle } from '../raster'
import { warpPart, type Kernels } from '../raster/kernels'
import { refusal } from '../words'
import type { Canvas, Grey, Tools } from './canvas'
import type { Size, StepOf } from './recipe'
import { fromLight } from './space'

/** No picture is made larger than this, either way: readers give up beyond. */
export const MOST_side_px = 60_000
/** Turned in pieces of this size. */
const PIECE_px = 512

/** A part of a picture. @throws Refusal where it reaches beyond. */
export function crop(canvas: Canvas, { x, y, width, height }: StepOf<'crop'>): Canvas {
  const part = { x, y, width, height }
  if (x < 0 || y < 0 || x + width > canvas.width || y + height > canvas.height)
    throw refusal('finish.cropOutside', { size: `${canvas.width} × ${canvas.height}` })
  const grey = (map?: Grey) => map && { width, height, data: cut(map.data, map.width, part, 1) }
  return {
    ...canvas,
    width,
    height,
    samples: cut(canvas.samples, canvas.width, part, 3),
    depth: grey(canvas.depth),
    confidence: grey(canvas.confidence),
  }
}

function cut(samples: Uint16Array, across: number, { x, y, width, height }: Rectangle, channels: number): Uint16Array {
  const out = new Uint16Array(width * height * channels)
  for (let row = 0; row < height; row++) {
    const from = ((y + row) * across + x) * channels
    out.set(samples.subarray(from, from + width * channels), row * width * channels)
  }
  return out
}

/** The largest upright rectangle of the same shape within a picture turned by so much, about its middle. */
export function uprightWithin(width: number, height: number, degrees: number): { width: number; height: number } {
  const angle = Math.abs((degrees * Math.PI) / 180)
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const scale = Math.min(width / (width * c + height * s), height / (width * s + height * c))
  return { width: Math.max(1, Math.floor(width * scale + 1e-9)), height: Math.max(1, Math.floor(height * scale + 1e-9)) }
}

/** Turned clockwise, with one cubic interpolation, and cut upright. */
export function straighten(canvas: Canvas, { degrees }: StepOf<'straighten'>, kernels: Kernels): Canvas {
  if (degrees === 0) return canvas
  const { width, height } = uprightWithin(canvas.width, canvas.height, degrees)
  const motion = { ...IDENTITY, rotation_rad: (-degrees * Math.PI) / 180 }
  const inset = { x: Math.floor((canvas.width - width) / 2), y: Math.floor((canvas.height - height) / 2) }
  const samples = new Uint16Array(width * height * 3)
  for (let y = 0; y < height; y += PIECE_px)
    for (let x = 0; x < width; x += PIECE_px) {
      const piece = { x, y, width: Math.min(PIECE_px, width - x), height: Math.min(PIECE_px, height - y) }
      const turned = warpPart(kernels, canvas.samples, canvas, { motion, gain: 1 }, { ...piece, x: x + inset.x, y: y + inset.y })
      for (let row = 0; row < piece.height; row++)
        samples.set(turned.subarray(3 * row * piece.width, 3 * (row + 1) * piece.width), 3 * ((y + row) * width + x))
    }
  const grey = (map?: Grey) => map && turnedGrey(map, motion.rotation_rad, inset, width, height)
  return { ...canvas, width, height, samples, depth: grey(canvas.depth), confidence: grey(canvas.confidence) }
}

/** A map turned alike, to the nearest of its places: between two depths there is none. */
function turnedGrey(map: Grey, angle: number, inset: { x: number; y: number }, width: number, height: number): Grey {
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const [midX, midY] = [(map.width - 1) / 2, (map.height - 1) / 2]
  const data = new Uint16Array(width * height)
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const [u, v] = [x + inset.x - midX, y + inset.y - midY]
      const from = Math.min(map.width - 1, Math.max(0, Math.round(c * u - s * v + midX)))
      data[o] = map.data[Math.min(map.height - 1, Math.max(0, Math.round(s * u + c * v + midY))) * map.width + from]
    }
  return { width, height, data }
}

/** The size that is asked for, of the same shape. @throws Refusal where a side would be nothing, or more than any reader takes. */
export function sizeOf(size: Size, width: number, height: number): { width: number; height: number } {
  const scale = 'long_px' in size ? size.long_px / Math.max(width, height) : ((size.width_mm / 25.4) * size.perInch) / width
  const to = { width: Math.round(width * scale), height: Math.round(height * scale) }
  const long = Math.max(to.width, to.height)
  if (Math.min(to.width, to.height) < 1 || long > MOST_side_px) throw refusal('finish.size', { long_px: long, most_px: MOST_side_px })
  return to
}

export async function resize(canvas: Canvas, step: StepOf<'size'>, tools: Tools): Promise<Canvas> {
  const { width, height } = canvas
  const to = sizeOf(step, width, height)
  if (to.width === width && to.height === height) return canvas
  const grey = async (map?: Grey) => map && { ...to, data: await tools.resize(map.data, map, to, 1) }
  return {
    ...canvas,
    ...to,
    samples: await resizedLight(canvas, to, tools),
    depth: await grey(canvas.depth),
    confidence: await grey(canvas.confidence),
    scale: (canvas.scale * to.width) / width,
  }
}

/** Resized by light, as an eye mixes it from afar: means of samples would darken fine detail. */
async function resizedLight({ samples, width, height, space }: Canvas, to: { width: number; height: number }, tools: Tools): Promise<Uint16Array> {
  const light = Uint16Array.from(space.light, (value) => 65535 * value + 0.5)
  const bright = samples.map((sample) => light[sample])
  const out = await tools.resize(bright, { width, height }, to, 3)
  const row = new Float32Array(3 * to.width)
  for (let y = 0; y < to.height; y++) {
    const from = 3 * y * to.width
    for (let i = 0; i < row.length; i++) row[i] = out[from + i] / 65535
    fromLight(space, row, out, from)
  }
  return out
}
