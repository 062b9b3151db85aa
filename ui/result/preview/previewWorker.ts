import { STYLES, type StyleName, type Tuning } from '@/core/fuse'
import type { Bend, Plane, Similarity } from '@/core/raster'
import type { FrameSamples } from '@/core/raster/kernels'
import { areaSamples } from '../../areaSamples'

/** A part of a frame to fuse: where it is fetched, and its motion within that part. */
export interface PreviewFrame {
  url: string
  motion: Similarity
  bend?: Bend
  gain: number
}

export interface PreviewOrder {
  /** Tells its answer from those of earlier orders. */
  order: number
  style: StyleName
  tuning?: Tuning
  /** What is too weak to count as detail is shown dark and grey. */
  veil?: boolean
  width: number
  height: number
  /** Cut off on all sides of the result. */
  margin: number
  frames: PreviewFrame[]
}

export type PreviewReply = { order: number } & ({ blob: Blob; seconds: number } | { error: string })

/** Parts that were fetched before, by address: another style needs the same ones. */
const fetched = new Map<string, FrameSamples>()
/** Parts of other places are let go of from so many on. */
const MOST_PARTS = 400

async function partOf(url: string): Promise<FrameSamples> {
  const known = fetched.get(url)
  if (known) return known
  const samples = await areaSamples(url)
  if (fetched.size >= MOST_PARTS) fetched.clear()
  fetched.set(url, samples)
  return samples
}

async function fuse({ style, tuning, width, height, margin, frames, veil }: PreviewOrder): Promise<Blob> {
  const accumulator = STYLES[style].create({ width, height, tuning })
  const parts = await Promise.all(frames.map(({ url }) => partOf(url)))
  const entries = [...frames.entries()]
  // As the engine does: the depth that is met first is the one that is kept.
  if (tuning?.prefer === 'far') entries.reverse()
  for (const [index, { motion, bend, gain }] of entries) accumulator.add({ index, samples: parts[index], motion, bend, gain })
  const fused = accumulator.finish()
  // They lie in the kernels' memory only until something else is computed there.
  const samples = fused.samples.slice()
  if (veil) veilWeak(samples, width, height, fused.detail(), tuning?.floor ?? 1)
  const [wide, high] = [width - 2 * margin, height - 2 * margin]
  const image = new ImageData(wide, high)
  for (let y = 0, o = 0; y < high; y++) {
    for (let x = 0, s = ((y + margin) * width + margin) * 3; x < wide; x++, s += 3, o += 4) {
      for (let c = 0; c < 3; c++) image.data[o + c] = samples[s + c] / 257
      image.data[o + 3] = 255
    }
  }
  const canvas = new OffscreenCanvas(wide, high)
  canvas.getContext('2d')!.putImageData(image, 0, 0)
  return canvas.convertToBlob({ type: 'image/png' })
}

/** Darkens, and takes the colour from, what is weaker than the floor: it is taken from all frames alike, not from the sharpest. */
function veilWeak(samples: Uint16Array, width: number, height: number, detail: Plane, floor: number): void {
  for (let y = 0, s = 0; y < height; y++) {
    const row = Math.min(detail.height - 1, y >> 1) * detail.width
    for (let x = 0; x < width; x++, s += 3) {
      if (detail.data[row + Math.min(detail.width - 1, x >> 1)] >= floor) continue
      const grey = 0.3 * ((samples[s] + samples[s + 1] + samples[s + 2]) / 3)
      for (let c = 0; c < 3; c++) samples[s + c] = grey
    }
  }
}

addEventListener('message', ({ data }: MessageEvent<PreviewOrder>) => {
  const start = performance.now()
  fuse(data).then(
    (blob) => postMessage({ order: data.order, blob, seconds: (performance.now() - start) / 1000 } satisfies PreviewReply),
    (error: Error) => postMessage({ order: data.order, error: error.message } satisfies PreviewReply),
  )
})
