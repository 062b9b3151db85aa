import { exifEntries, EXIF_DIRECTORY, mainEntries, type TakenWith } from './exif'
import { asciiEntry, directoryBytes, longEntry, rationalEntry, shortEntry, type DirectoryEntry } from './tiffDirectory'

/** Field types of TIFF 6.0, section 2. */
const BYTE = 1
const SHORT = 3
const SIGNED_RATIONAL = 10

/** What one pixel of a sensor stands behind: 0 red, 1 green, 2 blue; rows of two by two. */
export const MOSAIC = [0, 1, 1, 2] as const

/** A raw picture: what each pixel of the sensor counted, through the filter before it (`MOSAIC`). */
export interface RawPicture {
  width: number
  height: number
  /** One number a pixel, row by row. */
  counts: Uint16Array
  /** Counts without any light, and those of a full pixel. */
  black: number
  white: number
  /** Rows of the matrix from XYZ (D65) to the camera's red, green and blue. */
  cameraFromXyz: readonly (readonly number[])[]
  /** The camera's red, green and blue of what is grey in the light it was taken in; the largest is 1. */
  neutral: readonly number[]
}

/** A small picture within the file that can be shown at once: a whole JPEG file. */
export interface Preview {
  jpeg: Uint8Array
  width: number
  height: number
}

/**
 * A raw picture as a DNG file, uncompressed: the preview in its first directory, the sensor's counts in the one below it.
 * Source: the published specification of the Digital Negative, version 1.4 (2012); TIFF 6.0.
 */
export function dngFile(raw: RawPicture, preview: Preview, taken: TakenWith, software: string): Uint8Array {
  const HEADER = 8
  const size = (entries: DirectoryEntry[]) => directoryBytes(entries, 0, true).length
  const pixels = new Uint8Array(raw.counts.buffer, raw.counts.byteOffset, raw.counts.byteLength)
  // All directories take the same room wherever they lie: their lengths first, then where everything comes to lie.
  const at = { raw: 0, exif: 0, preview: 0, pixels: 0 }
  const directories = () =>
    [mainDirectory(raw, preview, taken, software, at), rawDirectory(raw, at.pixels, pixels.length), exifEntries(taken, true)] as const
  const [mainSize, rawSize, exifSize] = directories().map(size)
  at.raw = HEADER + mainSize
  at.exif = at.raw + rawSize
  at.preview = at.exif + exifSize
  at.pixels = at.preview + preview.jpeg.length + (preview.jpeg.length & 1)
  const [main, rawEntries, exif] = directories()
  const file = new Uint8Array(at.pixels + pixels.length)
  file.set([0x49, 0x49, 42, 0, HEADER, 0, 0, 0])
  file.set(directoryBytes(main, HEADER, true), HEADER)
  file.set(directoryBytes(rawEntries, at.raw, true), at.raw)
  file.set(directoryBytes(exif, at.exif, true), at.exif)
  file.set(preview.jpeg, at.preview)
  file.set(pixels, at.pixels)
  return file
}

function mainDirectory(
  raw: RawPicture,
  preview: Preview,
  taken: TakenWith,
  software: string,
  at: { raw: number; exif: number; preview: number },
): DirectoryEntry[] {
  const COLOURS_OF_JPEG = 6
  const body = taken.body ?? 'Camera'
  return [
    // A smaller picture of another one in this file.
    longEntry(254, 1, true),
    longEntry(256, preview.width, true),
    longEntry(257, preview.height, true),
    shorts(258, [8, 8, 8]),
    shortEntry(259, 7, true),
    shortEntry(262, COLOURS_OF_JPEG, true),
    longEntry(273, at.preview, true),
    shortEntry(277, 3, true),
    longEntry(278, preview.height, true),
    longEntry(279, preview.jpeg.length, true),
    shortEntry(284, 1, true),
    longEntry(330, at.raw, true),
    longEntry(EXIF_DIRECTORY, at.exif, true),
    asciiEntry(271, 'Simulated'),
    ...mainEntries(taken, software),
    ...(taken.body ? [] : [asciiEntry(272, body)]),
    shortEntry(274, 1, true),
    bytes(50706, [1, 4, 0, 0]),
    bytes(50707, [1, 1, 0, 0]),
    asciiEntry(50708, `Simulated ${body}`),
    signedRationals(50721, raw.cameraFromXyz.flat()),
    // The matrix holds in daylight (D65).
    shortEntry(50778, 21, true),
    rationals(50728, raw.neutral),
  ]
}

function rawDirectory({ width, height, black, white }: RawPicture, at: number, length: number): DirectoryEntry[] {
  const COLOUR_FILTERS = 32803
  return [
    longEntry(254, 0, true),
    longEntry(256, width, true),
    longEntry(257, height, true),
    shortEntry(258, 16, true),
    shortEntry(259, 1, true),
    shortEntry(262, COLOUR_FILTERS, true),
    longEntry(273, at, true),
    shortEntry(277, 1, true),
    longEntry(278, height, true),
    longEntry(279, length, true),
    shortEntry(284, 1, true),
    shorts(33421, [2, 2]),
    bytes(33422, [...MOSAIC]),
    bytes(50710, [0, 1, 2]),
    shortEntry(50711, 1, true),
    rationalEntry(50714, [black, 1], true),
    longEntry(50717, white, true),
  ]
}

function bytes(tag: number, values: number[]): DirectoryEntry {
  return { tag, type: BYTE, count: values.length, bytes: Uint8Array.from(values) }
}

function shorts(tag: number, values: number[]): DirectoryEntry {
  return { tag, type: SHORT, count: values.length, bytes: new Uint8Array(Uint16Array.from(values).buffer) }
}

const PARTS = 1_000_000

function rationals(tag: number, values: readonly number[]): DirectoryEntry {
  const parts = values.flatMap((value) => [Math.round(value * PARTS), PARTS])
  return { tag, type: 5, count: values.length, bytes: new Uint8Array(Uint32Array.from(parts).buffer) }
}

function signedRationals(tag: number, values: readonly number[]): DirectoryEntry {
  const parts = values.flatMap((value) => [Math.round(value * PARTS), PARTS])
  return { tag, type: SIGNED_RATIONAL, count: values.length, bytes: new Uint8Array(Int32Array.from(parts).buffer) }
}
