import path from 'node:path'
import sharp, { type Metadata } from 'sharp'
import { fromInterleaved, type Picture } from '@/core/raster'
import { InputError } from '@/schemas'

// Nothing decoded is kept for the next time: files are read once, and another may have come by the same name.
sharp.cache(false)

/** Largest picture that is opened at all; beyond it a header is a mistake or a trap. */
const MOST_PIXELS = 250_000_000

export interface PictureFacts {
  width: number
  height: number
  bits: 8 | 16
  format: string
  exif?: Buffer
  icc?: Buffer
}

const FORMATS = new Set(['jpeg', 'png', 'tiff'])

/**
 * Size, depth and metadata of a JPEG, PNG or TIFF file, without decoding it. Orientation is taken into account.
 * @throws InputError naming the file and what to do.
 */
export async function readFacts(file: string): Promise<PictureFacts> {
  const metadata = await orExplain(file, open(file).metadata())
  if (!FORMATS.has(metadata.format)) throw new InputError(`${path.basename(file)} is a ${metadata.format} file; bring JPEG, PNG or TIFF.`)
  if (metadata.width * metadata.height > MOST_PIXELS)
    throw new InputError(`${path.basename(file)} is ${metadata.width} × ${metadata.height} px; at most 250 megapixels are taken.`)
  const turned = (metadata.orientation ?? 1) >= 5
  return {
    width: turned ? metadata.height : metadata.width,
    height: turned ? metadata.width : metadata.height,
    bits: bitsOf(metadata),
    format: metadata.format,
    exif: metadata.exif,
    icc: metadata.icc,
  }
}

/**
 * Decodes a whole picture, 8 or 16 bits a channel, to 0 … 1. `mostWidth_px` asks for a smaller one, which JPEG files
 * give much faster than their full size.
 * @throws InputError where the file is damaged.
 */
export async function readPicture(file: string, mostWidth_px?: number): Promise<Picture> {
  const { samples, width, height } = await readSamples(file, mostWidth_px)
  return fromInterleaved(samples, width, height)
}

/** The same as interleaved RGB samples, as they were decoded, in the space of their own profile. @throws InputError where the file is damaged. */
export async function readSamples(
  file: string,
  mostWidth_px?: number,
): Promise<{ samples: Uint8Array | Uint16Array; width: number; height: number }> {
  const { bits } = await readFacts(file)
  let pipeline = open(file).rotate()
  if (mostWidth_px) pipeline = pipeline.resize({ width: mostWidth_px, withoutEnlargement: true, kernel: 'cubic' })
  pipeline = pipeline.removeAlpha().toColourspace(bits === 16 ? 'rgb16' : 'srgb')
  const { data, info } = await orExplain(file, pipeline.raw({ depth: bits === 16 ? 'ushort' : 'uchar' }).toBuffer({ resolveWithObject: true }))
  const samples = bits === 16 ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data
  return { samples, width: info.width, height: info.height }
}

/** Decodes a file completely, to know that nothing is missing from it. @throws InputError where it is damaged. */
export async function verifyPicture(file: string): Promise<PictureFacts> {
  const facts = await readFacts(file)
  await orExplain(file, open(file).stats())
  return facts
}

function open(file: string) {
  return sharp(file, { failOn: 'truncated', limitInputPixels: MOST_PIXELS, unlimited: false, ignoreIcc: true })
}

function bitsOf(metadata: Metadata): 8 | 16 {
  return metadata.depth === 'ushort' || metadata.depth === 'float' ? 16 : 8
}

async function orExplain<T>(file: string, work: Promise<T>): Promise<T> {
  try {
    return await work
  } catch (error) {
    throw new InputError(explain(path.basename(file), String((error as Error).message)))
  }
}

function explain(name: string, message: string): string {
  if (/missing|no such file/i.test(message)) return `${name} is not there; check the folder and the name.`
  if (/pixel limit/i.test(message)) return `${name} claims more than 250 megapixels; it cannot be a frame of a series.`
  if (/unsupported image format|buffer is empty|empty/i.test(message)) return `${name} is not a picture that can be read; bring JPEG, PNG or TIFF.`
  return `${name} is cut short or damaged; copy it from the card again.`
}
