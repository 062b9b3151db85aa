import { asciiEntry, directoryBytes, longEntry, rationalEntry, shortEntry, UNDEFINED, type DirectoryEntry } from './tiffDirectory'

/** What a picture was taken with. Times are ISO 8601; a part that is not known is left out. */
export interface TakenWith {
  body?: string
  lens?: string
  taken_at?: string
  exposure_s?: number
  fNumber?: number
  focalLength_mm?: number
  iso?: number
}

/** Tags of the main directory and of the EXIF directory (CIPA DC-008, Exif 2.32). */
const MODEL = 0x0110
const SOFTWARE = 0x0131
const DATE_TIME = 0x0132
export const EXIF_DIRECTORY = 0x8769
const EXPOSURE_TIME = 0x829a
const F_NUMBER = 0x829d
const ISO_SPEED = 0x8827
const EXIF_VERSION = 0x9000
const DATE_TIME_ORIGINAL = 0x9003
const FOCAL_LENGTH = 0x920a
const LENS_MODEL = 0xa434

/** Entries that belong into a picture's main directory. */
export function mainEntries({ body, taken_at }: TakenWith, software: string): DirectoryEntry[] {
  return [asciiEntry(SOFTWARE, software), ...(body ? [asciiEntry(MODEL, body)] : []), ...(taken_at ? [asciiEntry(DATE_TIME, stampOf(taken_at))] : [])]
}

/** Entries of the EXIF directory. */
export function exifEntries({ lens, taken_at, exposure_s, fNumber, focalLength_mm, iso }: TakenWith, little: boolean): DirectoryEntry[] {
  return [
    { tag: EXIF_VERSION, type: UNDEFINED, count: 4, bytes: Uint8Array.of(48, 50, 51, 50) },
    ...(taken_at ? [asciiEntry(DATE_TIME_ORIGINAL, stampOf(taken_at))] : []),
    ...(exposure_s ? [rationalEntry(EXPOSURE_TIME, exposureFraction(exposure_s), little)] : []),
    ...(fNumber ? [rationalEntry(F_NUMBER, [Math.round(fNumber * 100), 100], little)] : []),
    ...(focalLength_mm ? [rationalEntry(FOCAL_LENGTH, [Math.round(focalLength_mm * 100), 100], little)] : []),
    ...(iso ? [shortEntry(ISO_SPEED, Math.min(65_535, Math.round(iso)), little)] : []),
    ...(lens ? [asciiEntry(LENS_MODEL, lens)] : []),
  ]
}

/** A block as JPEG and PNG carry it, little-endian, from the byte-order mark on. */
export function exifBlock(taken: TakenWith, software: string): Uint8Array {
  const HEADER = 8
  const main = [...mainEntries(taken, software), longEntry(EXIF_DIRECTORY, 0, true)]
  const inside_at = HEADER + directoryBytes(main, HEADER, true).length
  main[main.length - 1] = longEntry(EXIF_DIRECTORY, inside_at, true)
  return joined([
    Uint8Array.of(0x49, 0x49, 42, 0, HEADER, 0, 0, 0),
    directoryBytes(main, HEADER, true),
    directoryBytes(exifEntries(taken, true), inside_at, true),
  ])
}

/** An exposure as cameras write it: 1/13 where it is close to a fraction of one second, else hundredths. */
function exposureFraction(exposure_s: number): [number, number] {
  const inverse = 1 / exposure_s
  if (exposure_s < 1 && Math.abs(inverse - Math.round(inverse)) < 0.005 * inverse) return [1, Math.round(inverse)]
  return exposure_s >= 1 ? [Math.round(exposure_s * 100), 100] : [Math.round(exposure_s * 1e6), 1e6]
}

/** `2026:05:11 09:30:00`. */
function stampOf(taken_at: string): string {
  return taken_at.slice(0, 19).replaceAll('-', ':').replace('T', ' ')
}

function joined(parts: Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0))
  parts.reduce((at, part) => (out.set(part, at), at + part.length), 0)
  return out
}
