import exifr from 'exifr'
import type { TakenWith } from '@/core/formats'

const FIELDS = ['Model', 'LensModel', 'DateTimeOriginal', 'ExposureTime', 'FNumber', 'FocalLength', 'ISO'] as const

/**
 * What a picture was taken with, from an EXIF block or from a TIFF file, whose directories hold the same; null where there is
 * none or it cannot be read (a frame is used all the same).
 */
export async function readTakenWith(source: Buffer | string | undefined): Promise<TakenWith | null> {
  if (!source) return null
  try {
    const found = (await exifr.parse(typeof source === 'string' ? source : withoutMark(source), {
      pick: [...FIELDS],
      reviveValues: false,
      mergeOutput: true,
      iptc: false,
      xmp: false,
      icc: false,
    })) as Partial<Record<(typeof FIELDS)[number], unknown>> | undefined
    if (!found) return null
    const taken: TakenWith = {
      body: text(found.Model),
      lens: text(found.LensModel),
      taken_at: time(found.DateTimeOriginal),
      exposure_s: positive(found.ExposureTime),
      fNumber: positive(found.FNumber),
      focalLength_mm: positive(found.FocalLength),
      iso: positive(found.ISO),
    }
    return Object.values(taken).some((value) => value !== undefined) ? taken : null
  } catch {
    return null
  }
}

/** JPEG blocks begin with `Exif` and two zeros. */
function withoutMark(block: Buffer): Buffer {
  return block.toString('latin1', 0, 4) === 'Exif' ? block.subarray(6) : block
}

function positive(value: unknown): number | undefined {
  const number = Array.isArray(value) ? value[0] : value
  return typeof number === 'number' && Number.isFinite(number) && number > 0 ? number : undefined
}

function text(value: unknown): string | undefined {
  return typeof value === 'string' && value.trim() ? value.trim().slice(0, 80) : undefined
}

/** EXIF tells no time zone; what it says is kept as UTC. */
function time(value: unknown): string | undefined {
  const parts = typeof value === 'string' && /^(\d{4})[:-](\d\d)[:-](\d\d)[ T](\d\d):(\d\d):(\d\d)/.exec(value)
  if (!parts) return undefined
  const [, year, month, day, hour, minute, second] = parts.map(Number)
  const at = new Date(Date.UTC(year, month - 1, day, hour, minute, second))
  return Number.isNaN(at.getTime()) ? undefined : at.toISOString()
}
