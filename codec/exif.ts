import exifReader from 'exif-reader'
import type { FrameExif } from '@/schemas'

/** The fields we use from an EXIF block; null where there is none or it cannot be read (a frame is used all the same). */
export function readExif(block: Buffer | undefined): FrameExif | null {
  if (!block) return null
  try {
    const { Image, Photo } = exifReader(block)
    return {
      body: text(Image?.Model),
      taken_at:
        Photo?.DateTimeOriginal instanceof Date && !Number.isNaN(Photo.DateTimeOriginal.getTime()) ? Photo.DateTimeOriginal.toISOString() : undefined,
      exposure_s: positive(Photo?.ExposureTime),
      fNumber: positive(Photo?.FNumber),
      focalLength_mm: positive(Photo?.FocalLength),
      iso: positive(Photo?.ISOSpeedRatings),
    }
  } catch {
    return null
  }
}

function positive(value: unknown): number | undefined {
  const number = Array.isArray(value) ? value[0] : value
  return typeof number === 'number' && Number.isFinite(number) && number > 0 ? number : undefined
}

function text(value: unknown): string | undefined {
  return typeof value === 'string' ? value.slice(0, 80) : undefined
}
