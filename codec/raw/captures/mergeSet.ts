import { readFile } from 'node:fs/promises'
import type { LibRawSettings } from 'libraw-wasm'
import sharp, { type Sharp } from 'sharp'
import { blendFull, CaptureMerger, latticeOf, toWide, type Capture, type Development, type Lattice, type Merging } from '@/core/develop'
import type { Interleaved } from '@/core/raster'
import { developedBy, scalingOf, srgbOf, takenWith, writeDeveloped, type Developed } from '../develop'
import type { RawMetadata } from '../library'
import { AS_COUNTED, mosaicOf, type Merged, type Opened } from './set'

/** Above this part of the picture nothing is merged: what moved would have coloured edges. */
const MOST_MOVED = 0.005

/**
 * Merges a set and develops it; its first capture alone, as large, where something moved or they are no lattice. Null where a file is damaged.
 * @throws what the disk says.
 */
export async function mergeSet(captures: Capture[], out: string, development: Development, opened: Opened): Promise<Merged | null> {
  const { scaling, gain } = scalingOf(development)
  const lattice = latticeOf(captures.map(({ x_px, y_px }) => [x_px, y_px]))
  // What is brighter than white is blended when all colours are known of each pixel.
  const KEPT = 1
  const merged = lattice && (await layTogether(captures, lattice, { ...scaling, ...(scaling.highlight && { highlight: KEPT }) }, opened))
  if (merged === null) return null
  const told = { captures: captures.length, moved_percent: Number((100 * (merged?.moved ?? 0)).toFixed(1)) }
  if (merged && merged.moved <= MOST_MOVED) {
    const { samples, width, height, facts } = merged
    if (scaling.highlight) blendFull(samples, development.multipliers)
    toWide(samples, srgbOf(facts), gain)
    await writeDeveloped(out, { ...(await turned({ samples, width, height }, facts.flip)), taken: takenWith(facts) })
    return { ...told, used: captures.length }
  }
  const alone = await firstAlone(captures[0], lattice?.finer ?? 1, development, opened)
  if (!alone) return null
  await writeDeveloped(out, alone)
  return { ...told, used: 1 }
}

/** The captures as one picture in the camera's light. Null where one is damaged, undefined where their filters do not repeat after two by two. */
async function layTogether(
  captures: Capture[],
  lattice: Lattice,
  settings: LibRawSettings,
  opened: Opened,
): Promise<(Merging & { facts: RawMetadata }) | null | undefined> {
  let merger: CaptureMerger | undefined
  let facts: RawMetadata | undefined
  for (const { file } of captures) {
    const capture = opened(await readFile(file), { ...settings, ...AS_COUNTED }, (raw) => {
      facts ??= raw.metadata(true)
      return mosaicOf(raw)
    })
    if (!capture) return null
    merger ??= new CaptureMerger(lattice, capture.width, capture.height)
    if (!merger.add(capture)) return undefined
  }
  return { ...merger!.finish(), facts: facts! }
}

/** One capture developed, and made as large as the set would be. */
async function firstAlone({ file }: Capture, finer: number, development: Development, opened: Opened): Promise<Developed | undefined> {
  const { scaling, gain } = scalingOf(development)
  const developed = opened(await readFile(file), scaling, (raw) => developedBy(raw, gain))
  if (!developed || finer === 1) return developed
  const { width, height } = developed
  return { ...developed, ...(await redrawn(developed, (picture) => picture.resize(finer * width, finer * height, { kernel: 'cubic' }))) }
}

/** How pictures are turned upright, by how the library notes it. */
const TURNS: Record<number, number> = { 3: 180, 5: 270, 6: 90 }

/** Upright, as the library leaves pictures that it develops by itself. */
async function turned(picture: Interleaved, flip: number): Promise<Interleaved> {
  const angle = TURNS[flip]
  return angle === undefined ? picture : redrawn(picture, (upright) => upright.rotate(angle))
}

/** Without a profile, so that its samples stay what they are. */
async function redrawn({ samples, width, height }: Interleaved, how: (picture: Sharp) => Sharp): Promise<Interleaved> {
  const picture = sharp(samples, { raw: { width, height, channels: 3 }, limitInputPixels: false })
  const { data, info } = await how(picture).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
  return { samples: new Uint16Array(data.buffer, data.byteOffset, data.length / 2), width: info.width, height: info.height }
}
