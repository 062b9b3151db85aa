import type { Rectangle } from '../raster'
import { Workspace, type Kernels } from '../raster/kernels'
import type { BoundaryFrame, PaintEdit } from './edits'
import { heal } from './heal'
import { strokeBounds, strokeMask, touchedBy, type StrokeMask } from './stroke'
import { evenTone } from './tone'

/** A part of a donor: interleaved 16-bit RGB of a rectangle of the picture. */
export type DonorPart = (part: Rectangle) => Uint16Array

/** The depth of a picture, 0 the nearest frame and 1 the farthest, as large as it. */
export interface Depths {
  width: number
  height: number
  data: Uint16Array | Float32Array
  /** Value that stands for the farthest. */
  most: number
}

/** A fill looks for texture this far around its hole, in widths of the hole, and at least so many px. */
const AROUND = 2
const LEAST_around_px = 40
/** What lies in one stroke is done in pieces of this size, so that a long stroke does not need its whole rectangle. */
const PIECE_px = 512

/** What of a picture an edit looks at: what it touches, and for a fill the texture around. */
export function seenBy(edit: PaintEdit, width: number, height: number): Rectangle {
  const bounds = strokeBounds(edit, width, height)
  if (edit.kind === 'heal')
    return widened(bounds, Math.max(LEAST_around_px, Math.round(AROUND * Math.min(bounds.width, bounds.height))), width, height)
  return 'evenTone' in edit && edit.evenTone ? widened(bounds, rimOf(bounds.width, bounds.height), width, height) : bounds
}

/** The rectangles of a picture that an edit touches: what is needed of its donor. */
export function piecesOf(edit: PaintEdit, most_x: number, most_y: number): Rectangle[] {
  const { x, y, width, height } = strokeBounds(edit, most_x, most_y)
  if (width === 0 || height === 0) return []
  // A tone is evened over the whole stroke.
  if ('evenTone' in edit && edit.evenTone) return [seenBy(edit, most_x, most_y)]
  const list: Rectangle[] = []
  for (let top = y; top < y + height; top += PIECE_px)
    for (let left = alignedDown(x); left < x + width; left += PIECE_px) {
      const part = { x: left, y: top, width: Math.min(PIECE_px, x + width - left), height: Math.min(PIECE_px, y + height - top) }
      const touched = touchedBy(edit, part)
      if (touched.width > 0) list.push(aligned(touched, most_x))
    }
  return list
}

/** Rows that begin at such places are copied to and from the kernels' memory six times as fast: words at a time, not bytes. */
const ALIGNED_px = 4
const alignedDown = (x: number) => ALIGNED_px * Math.floor(x / ALIGNED_px)

/** The rectangle with its sides moved outwards to such places. */
function aligned({ x, width, ...upright }: Rectangle, most_x: number): Rectangle {
  const left = alignedDown(x)
  return { ...upright, x: left, width: Math.min(most_x, ALIGNED_px * Math.ceil((x + width) / ALIGNED_px)) - left }
}

/** Carries out edits on a picture of interleaved 16-bit RGB, in place. Where a stroke's strength is 0 nothing changes. */
export class Mender {
  /** The picture before any edit: "as it was". */
  private readonly original: Map<PaintEdit, Uint16Array> = new Map()

  constructor(
    readonly samples: Uint16Array,
    readonly width: number,
    readonly height: number,
    private readonly kernels: Kernels,
    private readonly depths?: Depths,
  ) {}

  /** Keeps what an edit of kind `original` will bring back; to be asked before the first edit is made. */
  remember(edit: PaintEdit): void {
    if (edit.kind === 'original') this.original.set(edit, cutPart(this.samples, this.width, strokeBounds(edit, this.width, this.height)))
  }

  /** Paints one piece of an edit from its donor, interleaved as the piece is. */
  paint(edit: PaintEdit, part: Rectangle, donor: Uint16Array): void {
    const space = new Workspace(this.kernels, part.width)
    const mask = this.mask(edit, part, space)
    if ('evenTone' in edit && edit.evenTone) {
      const raised = Float32Array.from(donor, (value) => value / 65535)
      evenTone(
        raised,
        Float32Array.from(cutPart(this.samples, this.width, part), (value) => value / 65535),
        mask,
      )
      this.blend(mask, raised)
    } else this.layOver(mask, donor, space)
  }

  /** Brings the picture back as it was before the first edit. */
  restore(edit: PaintEdit): void {
    const bounds = strokeBounds(edit, this.width, this.height)
    const before = this.original.get(edit)
    if (!before || bounds.width === 0) return
    const space = new Workspace(this.kernels, bounds.width)
    this.layOver(this.mask(edit, bounds, space), before, space)
  }

  /** Fills what a stroke covers from around it. */
  heal(edit: PaintEdit): void {
    const bounds = strokeBounds(edit, this.width, this.height)
    if (bounds.width === 0 || bounds.height === 0) return
    const part = seenBy(edit, this.width, this.height)
    const mask = this.mask(edit, part, new Workspace(this.kernels, part.width))
    const patch = {
      width: part.width,
      height: part.height,
      samples: Float32Array.from(cutPart(this.samples, this.width, part), (value) => value / 65535),
    }
    heal(
      patch,
      Uint8Array.from(mask.strength, (s) => Number(s > 0)),
    )
    this.blend(mask, patch.samples)
  }

  /** Of use until the kernels are run again. */
  private mask(edit: PaintEdit, part: Rectangle, space: Workspace): StrokeMask {
    const mask = strokeMask(edit, part, space)
    const { gate } = edit
    if (!gate || !this.depths) return mask
    const { data, width, most } = this.depths
    for (let y = 0, i = 0; y < part.height; y++)
      for (let x = 0; x < part.width; x++, i++) {
        const depth = data[(part.y + y) * width + part.x + x] / most
        if (depth < gate.near || depth > gate.far) mask.strength[i] = 0
      }
    return mask
  }

  /** Lays samples over the picture, interleaved as the mask is, by its strength; the mask was made in this workspace. */
  private layOver({ x, y, width, height, at }: StrokeMask, over: Uint16Array, space: Workspace): void {
    const count = 3 * width * height
    const [below, above] = [space.bytes(2 * count), space.bytes(2 * count)]
    const part = new Uint16Array(this.kernels.buffer(), below, count)
    const rowOf = (row: number) => this.samples.subarray(3 * ((y + row) * this.width + x), 3 * ((y + row) * this.width + x + width))
    for (let row = 0; row < height; row++) part.set(rowOf(row), 3 * row * width)
    new Uint16Array(this.kernels.buffer(), above, count).set(over)
    this.kernels.run('layOver', [below, above, at, width], height)
    for (let row = 0; row < height; row++) rowOf(row).set(part.subarray(3 * row * width, 3 * (row + 1) * width))
  }

  /** Mixes in values of 0 … 1, interleaved as the mask is, by its strength. */
  private blend({ x, y, width, height, strength }: StrokeMask, over: Float32Array): void {
    const { samples } = this
    for (let row = 0; row < height; row++) {
      let to = 3 * ((y + row) * this.width + x)
      for (let k = row * width, from = 3 * k; k < (row + 1) * width; k++, from += 3, to += 3) {
        const s = strength[k]
        if (s === 0) continue
        for (let c = 0; c < 3; c++) samples[to + c] += s * (65535 * over[from + c] - samples[to + c]) + 0.5
      }
    }
  }
}

/** A rectangle of a picture of interleaved RGB. */
export function cutPart(samples: Uint16Array, pictureWidth: number, { x, y, width, height }: Rectangle): Uint16Array {
  const out = new Uint16Array(width * height * 3)
  for (let row = 0; row < height; row++) {
    const from = 3 * ((y + row) * pictureWidth + x)
    out.set(samples.subarray(from, from + 3 * width), 3 * row * width)
  }
  return out
}

const rimOf = (width: number, height: number) => Math.max(8, Math.round(0.5 * Math.min(width, height)))

function widened({ x, y, width, height }: Rectangle, by: number, most_x: number, most_y: number): Rectangle {
  const [left, top] = [Math.max(0, x - by), Math.max(0, y - by)]
  return { x: left, y: top, width: Math.min(most_x, x + width + by) - left, height: Math.min(most_y, y + height + by) - top }
}

/**
 * Lays a frame over what lies above its line: below the line it is shown, above it what `samples` held, softly over the line's width.
 * Lines go from left to right; beyond their ends they go on level. Rows `from` … are of the whole picture, as is `donor`.
 */
export function layBelow(samples: Uint16Array, width: number, height: number, donor: Uint16Array, { until = [], width_px = 0 }: BoundaryFrame): void {
  const line = lineAt(until, width)
  for (let y = 0; y < height; y++)
    for (let x = 0, o = 3 * y * width; x < width; x++, o += 3) {
      const t = width_px > 0 ? (y - line[x]) / width_px + 0.5 : y >= line[x] ? 1 : 0
      if (t <= 0) continue
      const s = t >= 1 ? 1 : t * t * (3 - 2 * t)
      for (let c = 0; c < 3; c++) samples[o + c] = samples[o + c] + s * (donor[o + c] - samples[o + c]) + 0.5
    }
}

/** Height of a line at each column. */
function lineAt(points: [number, number][], width: number): Float32Array {
  const sorted = [...points].sort(([a], [b]) => a - b)
  const out = new Float32Array(width)
  for (let x = 0, k = 0; x < width; x++) {
    while (k < sorted.length - 2 && sorted[k + 1][0] < x) k++
    const [[ax, ay], [bx, by]] = [sorted[k], sorted[Math.min(k + 1, sorted.length - 1)]]
    const t = bx > ax ? Math.min(1, Math.max(0, (x - ax) / (bx - ax))) : 0
    out[x] = ay + t * (by - ay)
  }
  return out
}
