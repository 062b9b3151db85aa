import { cutPart, layBelow, Mender, piecesOf, type Depths, type PaintEdit } from '@/core/mend'
import type { Rectangle } from '@/core/raster'
import { warpPart, WasmKernels, type FrameSamples } from '@/core/raster/kernels'
import type { FramePlace } from '@/schemas'
import { areaSamples } from '../areaSamples'
import { NewestFirst } from './newestFirst'

/** A part of a frame to paint from, and where it is fetched. */
export interface DonorSource {
  url: string
  /** Absent where it lies as the picture does. */
  placed?: {
    frame: { width: number; height: number }
    /** What of the frame is fetched. */
    held: Rectangle
    place: FramePlace
    /** Where the part lies in the reference frame. */
    at: { x: number; y: number }
  }
}

/** A frame of a composed picture, shown up to a line of the part; the top one has none. */
export interface LaidFrame {
  donor: DonorSource
  until?: [number, number][]
  width_px?: number
}

/** A part of the picture with all edits that touch it, in order; coordinates are of the part. */
export interface PaintOrder {
  key: string
  /** Where the picture's part is fetched, or the frames it is laid of, the top one first. */
  base: string | LaidFrame[]
  /** Where its depth is fetched, for gates. */
  depths?: string
  /** Handed back whole, not only what edits changed. */
  whole?: boolean
  part: Rectangle
  /** What of the part is handed back. */
  cut: Rectangle
  edits: { edit: PaintEdit; donor?: DonorSource }[]
}

export type PaintReply = { key: string; bitmap: ImageBitmap } | { key: string; error: string }

const kernels = new WasmKernels()
const fetched = new Map<string, Promise<FrameSamples>>()
/** Parts of other places are let go of from so many on. */
const MOST_PARTS = 60

/** Interleaved RGB of a picture's part. */
function samplesOf(url: string): Promise<FrameSamples> {
  const known = fetched.get(url)
  if (known) return known
  if (fetched.size >= MOST_PARTS) fetched.clear()
  const coming = areaSamples(url)
  fetched.set(url, coming)
  coming.catch(() => fetched.delete(url))
  return coming
}

/** The same edits by the same code as the file: what is seen is what will be written. */
async function paint({ base, depths, whole, part, cut, edits }: PaintOrder): Promise<ImageBitmap> {
  const samples = typeof base === 'string' ? raised(await samplesOf(base)) : await laid(base, part)
  const before = whole ? undefined : samples.slice()
  const mender = new Mender(samples, part.width, part.height, kernels, depths === undefined ? undefined : await depthsOf(depths, part))
  for (const { edit } of edits) mender.remember(edit)
  for (const { edit, donor } of edits) {
    if (edit.kind === 'heal') mender.heal(edit)
    else if (edit.kind === 'original') mender.restore(edit)
    else if (donor) {
      const source = await samplesOf(donor.url)
      for (const piece of piecesOf(edit, part.width, part.height)) mender.paint(edit, piece, shownBy(donor, source, part, piece))
    }
  }
  return bitmapOf(mender.samples, before, part, cut)
}

/** Samples of 16 bits of their own. */
const raised = (samples: FrameSamples) => (samples instanceof Uint16Array ? samples.slice() : Uint16Array.from(samples, (value) => value * 257))

/** A piece of the part as a donor shows it. */
function shownBy({ placed }: DonorSource, source: FrameSamples, part: Rectangle, piece: Rectangle): Uint16Array {
  if (!placed) return cutPart(raised(source), part.width, piece)
  const { frame, held, place, at } = placed
  return warpPart(kernels, source, frame, place, { ...piece, x: piece.x + at.x, y: piece.y + at.y }, held)
}

/** Frames laid over one another, each over what is above its line. */
async function laid(frames: LaidFrame[], part: Rectangle): Promise<Uint16Array> {
  const whole = { x: 0, y: 0, width: part.width, height: part.height }
  const samples = new Uint16Array(part.width * part.height * 3)
  for (const [k, { donor, until, width_px }] of frames.entries()) {
    const shown = shownBy(donor, await samplesOf(donor.url), part, whole)
    if (k === 0) samples.set(shown)
    else layBelow(samples, part.width, part.height, shown, { frame: '', until, width_px })
  }
  return samples
}

/** The depth of a part. */
async function depthsOf(url: string, { width, height }: Rectangle): Promise<Depths> {
  const data = await samplesOf(url)
  return { width, height, most: 65535, data: data as Uint16Array }
}

/** What changed, opaque; the rest is left to the picture beneath. */
function bitmapOf(samples: Uint16Array, before: Uint16Array | undefined, part: Rectangle, cut: Rectangle): ImageBitmap {
  const image = new ImageData(cut.width, cut.height)
  for (let y = 0, o = 0; y < cut.height; y++) {
    let s = 3 * ((cut.y - part.y + y) * part.width + cut.x - part.x)
    for (let x = 0; x < cut.width; x++, s += 3, o += 4) {
      if (before && samples[s] === before[s] && samples[s + 1] === before[s + 1] && samples[s + 2] === before[s + 2]) continue
      for (let c = 0; c < 3; c++) image.data[o + c] = Math.round(samples[s + c] / 257)
      image.data[o + 3] = 255
    }
  }
  const canvas = new OffscreenCanvas(cut.width, cut.height)
  canvas.getContext('2d')!.putImageData(image, 0, 0)
  return canvas.transferToImageBitmap()
}

/** Of thousands that come together, as when a mend is opened, each fetches parts of pictures: so many at once. */
const queue = new NewestFirst(3)

addEventListener('message', ({ data }: MessageEvent<PaintOrder>) => {
  queue
    .add(data.key, () => paint(data))
    .then(
      (bitmap) => bitmap && postMessage({ key: data.key, bitmap } satisfies PaintReply, { transfer: [bitmap] }),
      (error: Error) => postMessage({ key: data.key, error: error.message } satisfies PaintReply),
    )
})
