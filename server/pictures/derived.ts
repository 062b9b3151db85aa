import { randomUUID } from 'node:crypto'
import { access, mkdir, rename, rm } from 'node:fs/promises'
import path from 'node:path'
import sharp, { type Sharp } from 'sharp'
import { readFacts, readSamples, writePicture } from '@/codec'
import { depthColour, rampPlace } from '@/core/ramp'
import type { Rectangle } from '@/core/raster'

/** A small JPEG of a picture, made once. */
export async function thumbnail(source: string, target: string, width_px = 480): Promise<string> {
  return once(target, (part) =>
    onScreen(source, part, (picture) =>
      picture.resize({ width: width_px, withoutEnlargement: true }).jpeg({ quality: 90, chromaSubsampling: '4:4:4' }).toFile(part),
    ),
  )
}

/** A Deep Zoom pyramid of a picture in `folder`, made once; returns its description file. */
export async function zoomPyramid(source: string, folder: string): Promise<string> {
  await once(folder, async (part) => {
    await mkdir(part, { recursive: true })
    await onScreen(source, path.join(part, 'source'), (picture) =>
      picture.jpeg({ quality: 90, chromaSubsampling: '4:4:4' }).tile({ size: 256, overlap: 1, layout: 'dz' }).toFile(path.join(part, 'picture')),
    )
  })
  return path.join(folder, 'picture.dzi')
}

/** A part of a frame as PNG, in 8 bits of sRGB; what lies outside of the frame repeats its edge. */
export function frameArea(source: string, area: Rectangle, scratch: string): Promise<Buffer> {
  return areaOf(source, area, scratch, (part) => part.png({ compressionLevel: 1 }).toBuffer())
}

/**
 * The same as bare interleaved samples, of as many bits as the picture has: where it has no profile to convert they are the file's own,
 * so that what is computed of them is what the engine computes. 16 bits come with the lower byte first.
 */
export async function frameAreaSamples(source: string, area: Rectangle, scratch: string): Promise<{ samples: Buffer; bits: 8 | 16 }> {
  const { bits } = await readFacts(source)
  const samples = await areaOf(source, area, scratch, (part) =>
    bits === 16 ? part.toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer() : part.toColourspace('srgb').raw().toBuffer(),
  )
  return { samples, bits: bits === 16 ? 16 : 8 }
}

async function areaOf<T>(source: string, { x, y, width, height }: Rectangle, scratch: string, make: (part: Sharp) => Promise<T>): Promise<T> {
  const { width: across, height: down } = await readFacts(source)
  const left = Math.min(Math.max(0, x), across - 1)
  const top = Math.min(Math.max(0, y), down - 1)
  const inside = { width: Math.max(1, Math.min(across, x + width) - left), height: Math.max(1, Math.min(down, y + height) - top) }
  // An area that lies wholly outside is all edge.
  const before = { left: Math.min(Math.max(0, left - x), width - inside.width), top: Math.min(Math.max(0, top - y), height - inside.height) }
  return onScreen(source, path.join(scratch, randomUUID()), (picture) =>
    make(
      picture
        .extract({ left, top, ...inside })
        .extend({ ...before, right: width - inside.width - before.left, bottom: height - inside.height - before.top, extendWith: 'copy' }),
    ),
  )
}

/**
 * Hands a picture over as a screen shows it: upright, without transparency, in sRGB. Pictures of 16 bits and CMYK are converted
 * with 16 bits: the library then goes through a wide space of its own, out of which they have to be asked for by name. A grey
 * profile it leaves aside there, so that such a picture goes through a file beside `scratch` first.
 */
export async function onScreen<T>(source: string, scratch: string, make: (picture: Sharp) => Promise<T>): Promise<T> {
  const { bits, colour } = await readFacts(source)
  // Eight bits of RGB or grey are rounded once on the short way, and twice on the long one.
  const wide = colour.icc !== undefined && (bits === 16 || colour.model === 'cmyk')
  const shown = (file: string) => {
    const picture = sharp(file, { limitInputPixels: false }).rotate().removeAlpha()
    return wide ? picture.pipelineColourspace('rgb16').toColourspace('rgb16').withIccProfile('srgb') : picture.toColourspace('srgb')
  }
  if (!wide || colour.model !== 'grey') return make(shown(source))
  const asRgb = `${scratch}.rgb.tif`
  try {
    await mkdir(path.dirname(asRgb), { recursive: true })
    await writePicture(asRgb, await readSamples(source), { bits: 16, icc: colour.samplesIcc })
    return await make(shown(asRgb))
  } finally {
    await rm(asRgb, { force: true })
  }
}

/** The source map of a render in the colours of the ribbon: each pixel shows how far back the frame it came from lies. */
export async function colouredSourceMap(source: string, target: string, frameCount: number): Promise<string> {
  return once(target, async (part) => (await inDepthColours(source, (index) => rampPlace(index, frameCount))).toFile(part))
}

/** Which frame of a render a place of its picture came from, counted from 0; undefined outside of the picture. */
export async function sourceAt(source: string, x: number, y: number): Promise<number | undefined> {
  const { width, height, depth } = await sharp(source).metadata()
  if (x < 0 || y < 0 || x >= width || y >= height) return undefined
  const deep = depth === 'ushort'
  const pixel = await sharp(source)
    .extract({ left: x, top: y, width: 1, height: 1 })
    .toColourspace(deep ? 'grey16' : 'b-w')
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer()
  return deep ? pixel.readUInt16LE(0) : pixel[0]
}

/** A depth picture of 8 bits, 0 near to 255 far, in the colours of the ribbon, as PNG. */
export async function colouredDepth(source: string): Promise<Buffer> {
  return (await inDepthColours(source, (value) => value / 255)).toBuffer()
}

/** A grey picture of 8 or 16 bits as PNG, coloured by the place on the ramp that each value stands for. */
async function inDepthColours(source: string, place: (value: number) => number): Promise<Sharp> {
  const deep = (await sharp(source).metadata()).depth === 'ushort'
  const { data, info } = await sharp(source)
    .toColourspace(deep ? 'grey16' : 'b-w')
    .raw({ depth: deep ? 'ushort' : 'uchar' })
    .toBuffer({ resolveWithObject: true })
  const values = deep ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data
  const colours = new Map<number, readonly number[]>()
  const colourOf = (value: number) => {
    let colour = colours.get(value)
    if (!colour) colours.set(value, (colour = depthColour(place(value))))
    return colour
  }
  const rgb = Buffer.alloc(info.width * info.height * 3)
  for (let i = 0, s = 0; i < info.width * info.height; i++, s += info.channels) rgb.set(colourOf(values[s]), 3 * i)
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
