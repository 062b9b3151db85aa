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

/** EXIF fields for a picture made from frames: what they were taken with and when, and that it was made here. */
export function exifFields({ body, taken_at, exposure_s, fNumber, focalLength_mm, iso }: FrameExif): Record<string, Record<string, string>> {
  const stamp = taken_at?.slice(0, 19).replaceAll('-', ':').replace('T', ' ')
  const parts = (value: number, unit: number) => `${Math.round(value * unit)}/${unit}`
  return {
    IFD0: { Software: 'Nitidus', ...(body && { Model: body }), ...(stamp && { DateTime: stamp }) },
    IFD2: {
      ...(stamp && { DateTimeOriginal: stamp }),
      ...(exposure_s && { ExposureTime: parts(exposure_s, 1_000_000) }),
      ...(fNumber && { FNumber: parts(fNumber, 10) }),
      ...(focalLength_mm && { FocalLength: parts(focalLength_mm, 10) }),
      ...(iso && { ISOSpeedRatings: String(Math.round(iso)) }),
    },
  }
}

function positive(value: unknown): number | undefined {
  const number = Array.isArray(value) ? value[0] : value
  return typeof number === 'number' && Number.isFinite(number) && number > 0 ? number : undefined
}

function text(value: unknown): string | undefined {
  return typeof value === 'string' ? value.slice(0, 80) : undefined
}
