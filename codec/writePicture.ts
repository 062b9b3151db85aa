import { randomUUID } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { chmod, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import sharp, { type Sharp } from 'sharp'
import { toInterleaved16, type Interleaved, type Picture, type Rectangle } from '@/core/raster'
import { formatOf, type PictureFormat } from './format'
import { tagPicture, type Tags } from './tagPicture'

export interface WriteOptions extends Tags {
  bits: 8 | 16
  /** The part of the picture to write; all of it where absent. */
  crop?: Rectangle
  /** Whether the file is for keeping elsewhere: smaller, and slower to write. */
  delivered?: boolean
  /** Whether it is read again at once and then removed: written as fast as can be. */
  quick?: boolean
  /** Of a JPEG, 1 … 100. */
  quality?: number
  /** Px per inch that it is to be printed at; TIFF says so. */
  perInch?: number
  /** How it was made, as an XMP packet. */
  xmp?: string
}

type EncodeOptions = WriteOptions & { large?: boolean }

/** Encodes a picture and puts it at `file` in one step, so that no half-written picture is ever found there. */
export async function writePicture(file: string, picture: Picture | Interleaved, options: WriteOptions): Promise<void> {
  const whole = 'samples' in picture ? picture : { ...picture, samples: toInterleaved16(picture) }
  const raw = { width: whole.width, height: whole.height, channels: 3 as const }
  let pipeline = sharp(whole.samples, { raw, limitInputPixels: false })
  if (options.crop) pipeline = pipeline.extract({ ...options.crop, left: options.crop.x, top: options.crop.y })
  pipeline = pipeline.toColourspace(options.bits === 16 ? 'rgb16' : 'srgb')
  if (options.xmp) pipeline = pipeline.withXmp(options.xmp)
  // Straight to the disk: an encoded picture beside the one in memory would be as large again.
  await inPlace(file, async (part) => {
    await encoded(pipeline, formatOf(file), { ...options, large: raw.width * raw.height > LARGE_px }).toFile(part)
    await tagPicture(part, formatOf(file), options)
  })
}

/** A small JPEG for the screen, in memory. */
export function screenJpeg(picture: Picture): Promise<Buffer> {
  const raw = { width: picture.width, height: picture.height, channels: 3 as const }
  return sharp(toInterleaved16(picture), { raw }).toColourspace('srgb').jpeg({ quality: 82 }).toBuffer()
}

/** Writes a plane of whole numbers as an 8- or 16-bit grey PNG; `data` of other kinds is rounded and held to its range. */
export async function writeGrey(file: string, { width, height, data }: GreyPlane, bits: 8 | 16): Promise<void> {
  const samples = (bits === 16 ? data instanceof Uint16Array : data instanceof Uint8Array) ? data : wholeNumbers(data, bits)
  const pipeline = sharp(samples as Uint8Array | Uint16Array, { raw: { width, height, channels: 1 }, limitInputPixels: false })
  const png = pipeline.toColourspace(bits === 16 ? 'grey16' : 'b-w').png({ compressionLevel: 6 })
  await inPlace(file, (part) => png.toFile(part))
}

interface GreyPlane {
  width: number
  height: number
  data: Float32Array | Uint8Array | Uint16Array
}

function wholeNumbers(data: GreyPlane['data'], bits: 8 | 16): Uint8Array | Uint16Array {
  const samples = bits === 16 ? new Uint16Array(data.length) : new Uint8Array(data.length)
  const most = 2 ** bits - 1
  // A loop: the arrays' own `from` gathers the values in a list first, hundreds of MB for a large picture.
  for (let i = 0; i < samples.length; i++) samples[i] = Math.min(most, Math.max(0, Math.round(data[i])))
  return samples
}

/** Writes a file beside its place and moves it there when it is complete. `mode` says who may read it, where not everybody may. */
export function writeWhole(file: string, contents: Uint8Array | string, mode?: number): Promise<void> {
  return inPlace(file, async (part) => {
    if (mode !== undefined) await chmod(part, mode)
    await writeFile(part, contents)
  })
}

export async function inPlace(file: string, write: (part: string) => Promise<unknown>): Promise<void> {
  const part = path.join(path.dirname(file), `.${path.basename(file)}.${randomUUID()}.part`)
  try {
    // An empty file first: where it cannot be made the system says why, more clearly than an encoder does. Made at once, so that
    // encoding begins in its own thread before the caller goes on to compute.
    writeFileSync(part, '')
    await write(part)
    await rename(part, file)
  } catch (error) {
    await rm(part, { force: true })
    throw error
  }
}

/** What prints are made at where nothing else is asked for; TIFF has to say something. */
const USUAL_perInch = 300

/** Lossless TIFF and PNG, JPEG at high quality without colour subsampling. */
const ENCODERS: Record<PictureFormat, (pipeline: Sharp, options: EncodeOptions) => Sharp> = {
  // For a file that is kept and read again: 16 bits hardly compress (24 megapixels 144 → 110 MB, in 5 s), and a render is waited for.
  tif: (pipeline, { delivered, perInch = USUAL_perInch }) => {
    const density = { xres: perInch / 25.4, yres: perInch / 25.4 }
    return delivered
      ? pipeline.tiff({ compression: 'deflate', predictor: 'horizontal', ...density })
      : pipeline.tiff({ compression: 'none', ...density })
  },
  png: (pipeline, { quick }) => pipeline.png({ compressionLevel: quick ? 0 : 6 }),
  // Tables made for the picture save a few per cent of the file, and take all of it as coefficients: 144 MB at 24 megapixels.
  jpg: (pipeline, { quality = 95, large }) => pipeline.jpeg({ quality, chromaSubsampling: '4:4:4', optimiseCoding: !large }),
}
/** Pictures of more pixels than this are encoded in as little memory as can be. */
const LARGE_px = 16_000_000

const encoded = (pipeline: Sharp, format: PictureFormat, options: EncodeOptions): Sharp => ENCODERS[format](pipeline, options)
