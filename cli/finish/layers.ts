import { mkdtemp, rm } from 'node:fs/promises'
import path from 'node:path'
import { writeLayer, writePicture } from '@/codec'
import { Chosen, finish, standing, type Canvas, type Recipe, type Tools } from '@/core/finish'
import type { Rectangle } from '@/core/raster'
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
  done: { samples: Uint16Array; width: number; height: number; icc?: Buffer }
  icc?: Buffer
  recipe: Recipe
}

/** Steps that change the shape: layers have to go through them to lie under the finished picture. */
const SHAPES = ['crop', 'straighten', 'size']

/**
 * Writes a picture with its layers: finished at the top, as it was beneath, and under it every registered frame, seen only where the picture
 * shows it. One frame is in memory at a time; layers are written to a folder beside the file, which goes when it is done.
 */
export async function writeLayers(
  out: string,
  { before, done, icc, recipe }: Pictures,
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
    await writeLayer(file, { ...size, samples: shaped.samples, cover: shaped.depth?.data }, { bits: recipe.bits, icc })
    layers.push({ name, file, visible })
  }
  try {
    const merged = path.join(scratch, 'merged.png')
    await writePicture(merged, done, { bits: recipe.bits, icc: done.icc })
    layers.push({ name: 'Finished', file: merged, visible: true })
    await add('As it was fused', { ...before, samples: before.samples.slice(), depth: undefined, confidence: undefined }, true)
    if (beneath) await addFrames(before, beneath, add, progress)
    await writeOpenRaster(out, size, layers, merged)
  } finally {
    await rm(scratch, { recursive: true, force: true })
  }
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
  const names = registration.frames.map(({ file }) => file).filter((name) => donors.serves(name))
  const chosen = new Chosen(before.samples, width, height)
  const of = 2 * names.length
  for (const [k, name] of names.entries()) {
    progress({ stage: 'layers', frame: k + 1, of })
    chosen.add(await whole(donors, name, crop))
  }
  const map = chosen.map()
  for (const [k, name] of names.entries()) {
    progress({ stage: 'layers', frame: names.length + k + 1, of })
    const cover = { width, height, data: map.map((index) => (index === k ? 65535 : 0)) }
    await add(name, { ...before, samples: await whole(donors, name, crop), depth: cover, confidence: undefined }, true)
  }
}

/** Registered in strips, so that the frame is not there three times. */
const STRIP_px = 512

async function whole(donors: Donors, name: string, { width, height }: Rectangle): Promise<Uint16Array> {
  const donor = await donors.open(name)
  const samples = new Uint16Array(width * height * 3)
  for (let y = 0; y < height; y += STRIP_px)
    samples.set(donors.part(donor, { x: 0, y, width, height: Math.min(STRIP_px, height - y) }), 3 * y * width)
  return samples
}
