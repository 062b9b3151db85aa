import { randomUUID } from 'node:crypto'
import { access, mkdir, rename, rm } from 'node:fs/promises'
import path from 'node:path'
import sharp, { type Sharp } from 'sharp'
import type { Rectangle } from '@/core/raster'
import { depthColour, rampPlace } from '@/core/ramp'

/** A small JPEG of a picture, made once. */
export async function thumbnail(source: string, target: string, width_px = 480): Promise<string> {
  return once(target, (part) =>
    sharp(source).rotate().resize({ width: width_px, withoutEnlargement: true }).toColourspace('srgb').jpeg({ quality: 82 }).toFile(part),
  )
}

/** A Deep Zoom pyramid of a picture in `folder`, made once; returns its description file. */
export async function zoomPyramid(source: string, folder: string): Promise<string> {
  await once(folder, async (part) => {
    await mkdir(part, { recursive: true })
    await sharp(source)
      .rotate()
      .removeAlpha()
      .toColourspace('srgb')
      .jpeg({ quality: 90, chromaSubsampling: '4:4:4' })
      .tile({ size: 256, overlap: 1, layout: 'dz' })
      .toFile(path.join(part, 'picture'))
  })
  return path.join(folder, 'picture.dzi')
}

/** The source map of a render in the colours of the ribbon: each pixel shows how far back the frame it came from lies. */
export async function colouredSourceMap(source: string, target: string, frameCount: number): Promise<string> {
  return once(target, async (part) => (await inDepthColours(source, (index) => rampPlace(index, frameCount))).toFile(part))
}

/** A depth picture of 8 bits, 0 near to 255 far, in the colours of the ribbon, as PNG. */
export async function colouredDepth(source: string): Promise<Buffer> {
  return (await inDepthColours(source, (value) => value / 255)).toBuffer()
}

/** A grey picture of 8 bits as PNG, coloured by the place on the ramp that each value stands for. */
async function inDepthColours(source: string, place: (value: number) => number): Promise<Sharp> {
  const { data, info } = await sharp(source).toColourspace('b-w').raw().toBuffer({ resolveWithObject: true })
  const colours = Array.from({ length: 256 }, (_, value) => depthColour(place(value)))
  const rgb = Buffer.alloc(info.width * info.height * 3)
  for (let i = 0, s = 0; i < info.width * info.height; i++, s += info.channels) rgb.set(colours[data[s]], 3 * i)
  return sharp(rgb, { raw: { width: info.width, height: info.height, channels: 3 } }).png({ palette: false })
}

/** Makes a file or folder beside its place and moves it there whole; two requests at once do no harm. */
async function once(target: string, make: (part: string) => Promise<unknown>): Promise<string> {
  if (await exists(target)) return target
  await mkdir(path.dirname(target), { recursive: true })
  const part = path.join(/* turbopackIgnore: true */ path.dirname(target), `.${randomUUID()}${path.extname(target)}`)
  try {
    await make(part)
    await rename(part, target).catch(async (error: NodeJS.ErrnoException) => {
      if (!(await exists(target))) throw error
    })
  } finally {
    await rm(part, { force: true, recursive: true })
  }
  return target
}

async function exists(file: string): Promise<boolean> {
  return access(file).then(
    () => true,
    () => false,
  )
}

/** A part of a frame as PNG, in 8 bits; what lies outside of the frame repeats its edge. */
export async function frameArea(source: string, { x, y, width, height }: Rectangle): Promise<Buffer> {
  const { width: wide, height: high, orientation = 1 } = await sharp(source).metadata()
  const [across, down] = orientation >= 5 ? [high, wide] : [wide, high]
  const left = Math.min(Math.max(0, x), across - 1)
  const top = Math.min(Math.max(0, y), down - 1)
  const inside = { width: Math.max(1, Math.min(across, x + width) - left), height: Math.max(1, Math.min(down, y + height) - top) }
  const before = { left: left - x, top: top - y }
  return sharp(source)
    .rotate()
    .extract({ left, top, ...inside })
    .extend({ ...before, right: width - inside.width - before.left, bottom: height - inside.height - before.top, extendWith: 'copy' })
    .removeAlpha()
    .toColourspace('srgb')
    .png({ compressionLevel: 1 })
    .toBuffer()
}
