import { readFile } from 'node:fs/promises'
import path from 'node:path'
import sharp, { type Metadata } from 'sharp'
import { jpegDataFit } from '@/core/formats'
import { fromInterleaved, type Picture } from '@/core/raster'
import { refusal, type Refusal } from '@/core/words'
import { colourSpaceOf, type ColourSpace } from './colour'

// Nothing decoded is kept for the next time: files are read once, and another may have come by the same name.
sharp.cache(false)

/** Largest picture that is opened at all; beyond it a header is a mistake or a trap. */
const MOST_PIXELS = 250_000_000

export interface PictureFacts {
  width: number
  height: number
  bits: 8 | 16
  format: ReadFormat
  colour: ColourSpace
  exif?: Buffer
}

/** What is read, by the decoder's names. What such files are called is in `core/batch/names.ts`. */
const FORMATS = ['jpeg', 'png', 'tiff'] as const
type ReadFormat = (typeof FORMATS)[number]
const isRead = (format: string): format is ReadFormat => (FORMATS as readonly string[]).includes(format)

/**
 * Size, depth, colour and metadata of a JPEG, PNG or TIFF file, without decoding it. Orientation is taken into account.
 * `name` is what sentences call the file.
 * @throws Refusal naming the file and what to do, also where its samples or colours could not be read rightly.
 */
export async function readFacts(file: string, name = path.basename(file)): Promise<PictureFacts> {
  const metadata = await orExplain(name, sharp(file, LENIENT).metadata())
  if (!isRead(metadata.format)) throw refusal('picture.format', { name, format: metadata.format })
  const { width, height, depth, pages = 1 } = metadata
  if (width * height > MOST_PIXELS) throw refusal('picture.tooLarge', { name })
  if (depth !== 'uchar' && depth !== 'ushort') throw refusal('picture.depth', { name, depth: SAMPLE_KINDS[depth] ?? depth })
  if (metadata.format === 'tiff' && pages > 1 && !(await restAreThumbnails(file, metadata))) throw refusal('picture.pages', { name, pages })
  const turned = (metadata.orientation ?? 1) >= 5
  return {
    width: turned ? height : width,
    height: turned ? width : height,
    bits: depth === 'ushort' ? 16 : 8,
    format: metadata.format,
    colour: colourSpaceOf(name, metadata.space, metadata.icc),
    exif: metadata.exif,
  }
}

const SAMPLE_KINDS: Record<string, string> = {
  char: '8 bits with a sign',
  short: '16 bits with a sign',
  uint: '32 bits',
  int: '32 bits with a sign',
  float: 'floating point',
  double: 'floating point, 64 bits',
}

/** Some programs put small copies of a picture behind it in the same file; anything else is another picture. */
async function restAreThumbnails(file: string, { width, pages = 1 }: Metadata): Promise<boolean> {
  for (let page = 1; page < pages; page++) {
    const other = await sharp(file, { ...LENIENT, page })
      .metadata()
      .catch(() => undefined)
    if (!other || 2 * other.width > width) return false
  }
  return true
}

/**
 * Decodes a whole picture, 8 or 16 bits a channel, to 0 … 1. `mostWidth_px` asks for a smaller one, which JPEG files
 * give much faster than their full size.
 * @throws Refusal where the file is damaged.
 */
export async function readPicture(file: string, mostWidth_px?: number, name?: string): Promise<Picture> {
  const { samples, width, height } = await readSamples(file, mostWidth_px, name)
  return fromInterleaved(samples, width, height)
}

/** Interleaved RGB samples in the space of `colour.samplesIcc`. */
export interface Samples {
  samples: Uint8Array | Uint16Array
  width: number
  height: number
}

/**
 * The same as interleaved RGB samples, as they were decoded: RGB and grey as they stand in the file, CMYK brought to sRGB by its profile.
 * @throws Refusal where the file is damaged.
 */
export async function readSamples(file: string, mostWidth_px?: number, name?: string): Promise<Samples> {
  return (await beginSamples(file, mostWidth_px, name)).coming
}

/**
 * The same as soon as decoding has begun, which needs this thread no more until it is done.
 * @throws Refusal where the file is no picture; `coming` throws it where it is damaged.
 */
export async function beginSamples(file: string, mostWidth_px?: number, name = path.basename(file)): Promise<{ coming: Promise<Samples> }> {
  const { bits, format, colour } = await readFacts(file, name)
  // What has to be converted is, with 16 bits and relative to white.
  const wide = bits === 16 || colour.converted
  let pipeline = sharp(file, { ...strictFor(format), ignoreIcc: !colour.converted }).rotate()
  if (colour.converted) pipeline = pipeline.pipelineColourspace('rgb16').withIccProfile('srgb')
  if (mostWidth_px) pipeline = pipeline.resize({ width: mostWidth_px, withoutEnlargement: true, kernel: 'cubic' })
  pipeline = pipeline.removeAlpha().toColourspace(wide ? 'rgb16' : 'srgb')
  const decoding = orExplain(name, pipeline.raw({ depth: wide ? 'ushort' : 'uchar' }).toBuffer({ resolveWithObject: true }))
  const coming = decoding.then(({ data, info: { width, height } }) => ({
    samples: wide ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data,
    width,
    height,
  }))
  // Who does not wait for it hears nothing of it.
  coming.catch(() => undefined)
  return { coming }
}

/** Samples as 16 bits: those of 8 are spread so that white stays white. */
export const to16 = (samples: Uint8Array | Uint16Array): Uint16Array =>
  samples instanceof Uint16Array ? samples : Uint16Array.from(samples, (value) => value * 257)

/** Reads a file through, to know that nothing is missing from it. @throws Refusal where it is damaged. */
export async function verifyPicture(file: string, name = path.basename(file)): Promise<PictureFacts> {
  const facts = await readFacts(file, name)
  const fit = facts.format === 'jpeg' ? jpegDataFit(await readFile(file)) : undefined
  if (fit === false) throw refusal('picture.damaged', { name })
  await orExplain(name, decoded(file, facts.format, fit))
  return facts
}

/**
 * Has a picture decoded, and keeps nothing of it. Made small, as most are, a JPEG's decoder leaves detail out, and damage there unseen: that will do
 * where its data were found to fit, which tells of more than any decoder does. Others are asked for their last row.
 */
async function decoded(file: string, format: ReadFormat, fit: boolean | undefined): Promise<void> {
  const picture = sharp(file, { ...strictFor(format), sequentialRead: true })
  const { width, height } = await picture.metadata()
  const least = format === 'jpeg' && !fit ? picture.extract({ left: 0, top: height - 1, width, height: 1 }) : picture.resize(8, 8, { fit: 'fill' })
  await least.raw().toBuffer()
}

const LENIENT = { failOn: 'truncated', limitInputPixels: MOST_PIXELS, unlimited: false, ignoreIcc: true } as const

/**
 * A JPEG decoder paints over what it cannot make sense of and only warns; a frame must not be half invented, so warnings
 * count. Other formats tell damage as an error, by checksums, lengths and codes that are none, and warn of harmless things such as tags they
 * do not know.
 */
function strictFor(format: ReadFormat) {
  return { ...LENIENT, failOn: format === 'jpeg' ? ('warning' as const) : ('error' as const) }
}

async function orExplain<T>(name: string, work: Promise<T>): Promise<T> {
  try {
    return await work
  } catch (error) {
    throw explain(name, String((error as Error).message))
  }
}

function explain(name: string, message: string): Refusal {
  if (/missing|no such file/i.test(message)) return refusal('picture.missing', { name })
  if (/pixel limit/i.test(message)) return refusal('picture.tooLarge', { name })
  if (/unsupported image format|buffer is empty|empty/i.test(message)) return refusal('picture.unreadable', { name })
  return refusal('picture.damaged', { name })
}
