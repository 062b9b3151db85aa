import { mkdtemp, rm } from 'node:fs/promises'
import path from 'node:path'
import { writeLayer, writePages, writePicture } from '@/codec'
import type { TakenWith } from '@/core/formats'
import { Chosen, finish, standing, type Canvas, type Recipe, type Tools } from '@/core/finish'
import { createMemory, WasmKernels } from '@/core/raster/kernels'
import { refusal } from '@/core/words'
import type { FrameFile, Registration } from '@/schemas'
import { Donors } from '../mend/donors'
import type { Progress } from '../progress'
import { writeOpenRaster, type LayerFile } from './openRaster'

/** Frames to lay under the picture, and how they lie. */
export interface Beneath {
  frames: FrameFile[]
  registration: Registration
}

interface Pictures {
  /** The picture as it was, and as it was finished. */
  before: Canvas
  /** As it was fused, where it was mended since. */
  fused?: Uint16Array
  done: { samples: Uint16Array; width: number; height: number; icc?: Buffer }
  icc?: Buffer
  recipe: Recipe
  taken: TakenWith
}

/** Steps that change the shape: layers have to go through them to lie under the finished picture. */
const SHAPES = ['crop', 'straighten', 'size']

/**
 * Writes a picture with its layers: finished at the top, as it was beneath, and under it every registered frame, seen only where the picture
 * shows it. One frame is in memory at a time; layers are written to a folder beside the file, which goes when it is done.
 */
export async function writeLayers(
  out: string,
  { before, fused, done, icc, recipe, taken }: Pictures,
  beneath: Beneath | undefined,
  tools: Tools,
  progress: Progress,
): Promise<void> {
  const scratch = await mkdtemp(path.join(path.dirname(out), '.layers-'))
  const steps = standing(recipe.steps).filter((step) => SHAPES.includes(step.do))
  const size = { width: done.width, height: done.height }
  const layers: LayerFile[] = []
  const add = async (name: string, canvas: Canvas, visible: boolean) => {
    const file = path.join(scratch, `${layers.length}.png`)
    // What covers goes through the same steps as the picture, as a map of it does.
    const shaped = await finish(canvas, steps, tools)
    await writeLayer(file, onSheet(shaped, size), { bits: recipe.bits, icc })
    layers.push({ name, file, visible, icc })
  }
  try {
    const merged = path.join(scratch, 'merged.png')
    const pages = /\.tiff?$/i.test(out)
    if (pages) await writeLayer(merged, done, { bits: recipe.bits, icc: done.icc })
    else await writePicture(merged, done, { bits: recipe.bits, icc: done.icc })
    layers.push({ name: 'Finished', file: merged, visible: true, icc: done.icc })
    await add(
      fused ? 'As it was mended' : 'As it was fused',
      { ...before, samples: before.samples.slice(), depth: undefined, confidence: undefined },
      true,
    )
    if (fused) await add('As it was fused', { ...before, samples: fused, depth: undefined, confidence: undefined }, true)
    if (beneath) await addFrames(before, beneath, add, progress)
    if (pages) await writePages(out, layers, recipe.bits, { taken })
    else await writeOpenRaster(out, size, layers, merged)
  } finally {
    await rm(scratch, { recursive: true, force: true })
  }
}

/** A layer on a sheet of the finished picture's size: below it, where a caption stands, there is nothing. */
function onSheet({ samples, width, height, depth }: Canvas, size: { width: number; height: number }) {
  if (width === size.width && height === size.height) return { ...size, samples, cover: depth?.data }
  const sheet = { ...size, samples: new Uint16Array(3 * size.width * size.height), cover: new Uint16Array(size.width * size.height) }
  const across = Math.min(width, size.width)
  for (let y = 0; y < Math.min(height, size.height); y++) {
    sheet.samples.set(samples.subarray(3 * y * width, 3 * (y * width + across)), 3 * y * size.width)
    if (depth) sheet.cover.set(depth.data.subarray(y * width, y * width + across), y * size.width)
    else sheet.cover.fill(65535, y * size.width, y * size.width + across)
  }
  return sheet
}

/** Every frame of the render that its report says was used, seen where it was chosen. */
async function addFrames(
  before: Canvas,
  { frames, registration }: Beneath,
  add: (name: string, canvas: Canvas, visible: boolean) => Promise<void>,
  progress: Progress,
): Promise<void> {
  const { crop } = registration
  const { width, height } = before
  if (crop.width !== width || crop.height !== height)
    throw refusal('finish.mapSize', { file: 'The report', size: `${crop.width} × ${crop.height}`, wanted: `${width} × ${height}` })
  const donors = new Donors(frames, registration, new WasmKernels(createMemory()))
  const names = donors.names()
  const chosen = new Chosen(before.samples, width, height)
  const of = 2 * names.length
  for (const [k, name] of names.entries()) {
    progress({ stage: 'layers', frame: k + 1, of })
    chosen.add(await donors.whole(name))
  }
  const map = chosen.map()
  for (const [k, name] of names.entries()) {
    progress({ stage: 'layers', frame: names.length + k + 1, of })
    const cover = { width, height, data: map.map((index) => (index === k ? 65535 : 0)) }
    await add(name, { ...before, samples: await donors.whole(name), depth: cover, confidence: undefined }, true)
  }
}
