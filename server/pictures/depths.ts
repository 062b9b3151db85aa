import sharp, { type Sharp } from 'sharp'
import { walkByDepth } from '@/core/inspect'
import { linesByDepth, type Depths } from '@/core/mend'
import type { Rectangle } from '@/core/raster'

/** Lines are laid by a depth map no wider than this. */
const LAID_px = 600

async function readDepths(picture: Sharp): Promise<Depths & { data: Uint16Array }> {
  const { data, info } = await picture.toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2), most: 65535 }
}

/** A part of a render's depth, samples of 16 bits, the lower byte first. */
export async function depthArea(file: string, { x, y, width, height }: Rectangle): Promise<Buffer> {
  const { data: depths, ...info } = await readDepths(sharp(file, { limitInputPixels: false }))
  const part = new Uint16Array(width * height)
  for (let v = 0, o = 0; v < height; v++) {
    const row = Math.min(info.height - 1, Math.max(0, y + v)) * info.width
    for (let u = 0; u < width; u++, o++) part[o] = depths[row + Math.min(info.width - 1, Math.max(0, x + u))]
  }
  return Buffer.from(part.buffer)
}

/** A render's depth, small, and how many px of the picture one of it stands for. */
async function smallDepths(file: string): Promise<{ small: Depths; scale: number }> {
  const { width = 1 } = await sharp(file).metadata()
  const small = await readDepths(sharp(file, { limitInputPixels: false }).resize({ width: Math.min(width, LAID_px), kernel: 'nearest' }))
  return { small, scale: width / small.width }
}

/** Lines between frames of a render, laid by its measured depth; `depths` are those midway between each two, 0 … 1, from near to far. */
export async function linesThrough(file: string, depths: number[]): Promise<[number, number][][]> {
  const { small, scale } = await smallDepths(file)
  return linesByDepth(small, depths).map((line) => line.map(([x, y]) => [Math.round((x + 0.5) * scale - 0.5), Math.round((y + 0.5) * scale - 0.5)]))
}

/** Views of a render from front to back that together show all of it. */
export async function walkOver(file: string, view: { width: number; height: number }): Promise<Rectangle[]> {
  const { small, scale } = await smallDepths(file)
  return walkByDepth(small, scale, view)
}
