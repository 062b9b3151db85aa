import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import path from 'node:path'
import sharp, { type Sharp } from 'sharp'
import type { Interleaved } from '@/core/raster'
import { refusal } from '@/core/words'
import { askedFormat, type PictureFormat } from './format'
import { inPlace, writePicture, type WriteOptions } from './writePicture'

/** Formats that a finished picture may have: those that are read, two for screens, and one with layers. */
export type FinishedFormat = PictureFormat | 'webp' | 'avif' | 'ora'

/** What the two hold at most, either way. */
const MOST_px = { webp: 16_383, avif: 16_384 }

/** The format that a finished picture's name asks for. @throws Refusal where it asks for none of them. */
export function finishedFormatOf(file: string): FinishedFormat {
  const ending = path.extname(file).toLowerCase().slice(1)
  if (ending === 'webp' || ending === 'avif' || ending === 'ora') return ending
  const format = askedFormat(file)
  if (!format) throw refusal('finish.ending')
  return format
}

/** Writes a finished picture with its profile, what it was taken with and how it was made. Its quality counts where the format loses something. */
export async function writeFinished(
  file: string,
  format: Exclude<FinishedFormat, 'ora'>,
  picture: Interleaved,
  options: WriteOptions,
): Promise<void> {
  if (format !== 'webp' && format !== 'avif') return writePicture(file, picture, { ...options, delivered: true })
  const most_px = MOST_px[format]
  if (Math.max(picture.width, picture.height) > most_px) throw refusal('finish.webpSize', { most_px })
  // Through a picture that has its profile and EXIF: the library hands both on with samples as they are.
  const whole = path.join(path.dirname(file), `.${randomUUID()}.png`)
  try {
    await writePicture(whole, picture, { ...options, bits: 8, quick: true })
    await inPlace(file, (part) => ENCODERS[format](sharp(whole, { limitInputPixels: false }).keepMetadata(), options.quality ?? 90).toFile(part))
  } finally {
    await rm(whole, { force: true })
  }
}

const ENCODERS: Record<'webp' | 'avif', (picture: Sharp, quality: number) => Sharp> = {
  webp: (picture, quality) => picture.webp({ quality, lossless: quality === 100, effort: 4 }),
  avif: (picture, quality) => picture.avif({ quality, lossless: quality === 100, effort: 3, chromaSubsampling: '4:4:4' }),
}
