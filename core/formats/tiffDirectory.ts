/** One entry of a TIFF directory: tag, field type, number of values, and the values' bytes in the file's byte order. */
export interface DirectoryEntry {
  tag: number
  type: number
  count: number
  bytes: Uint8Array
}

/** Field types of TIFF 6.0, section 2. */
export const ASCII = 2
export const SHORT = 3
export const LONG = 4
export const RATIONAL = 5
export const UNDEFINED = 7

const ENTRY_BYTES = 12

/**
 * A directory as it lies in a file at byte `at`: its entries by tag, where the next directory is, and the values that
 * take more than four bytes behind it. Source: TIFF 6.0 (1992), section 2.
 */
export function directoryBytes(entries: DirectoryEntry[], at: number, little: boolean, next = 0): Uint8Array {
  const sorted = [...entries].sort((a, b) => a.tag - b.tag)
  const values_at = 2 + sorted.length * ENTRY_BYTES + 4
  const outside = sorted.filter(({ bytes }) => bytes.length > 4)
  const out = new Uint8Array(values_at + outside.reduce((sum, { bytes }) => sum + even(bytes.length), 0))
  const view = new DataView(out.buffer)
  let free = values_at
  view.setUint16(0, sorted.length, little)
  sorted.forEach(({ tag, type, count, bytes }, k) => {
    const here = 2 + k * ENTRY_BYTES
    view.setUint16(here, tag, little)
    view.setUint16(here + 2, type, little)
    view.setUint32(here + 4, count, little)
    if (bytes.length <= 4) return out.set(bytes, here + 8)
    view.setUint32(here + 8, at + free, little)
    out.set(bytes, free)
    free += even(bytes.length)
  })
  view.setUint32(values_at - 4, next, little)
  return out
}

/** Text of seven bits, ended by a zero; other characters become `?`. */
export function asciiEntry(tag: number, text: string): DirectoryEntry {
  const codes = [...text].map((letter) => (letter.codePointAt(0)! < 128 ? letter.charCodeAt(0) : 63))
  return { tag, type: ASCII, count: codes.length + 1, bytes: Uint8Array.of(...codes, 0) }
}

export function shortEntry(tag: number, value: number, little: boolean): DirectoryEntry {
  const bytes = new Uint8Array(2)
  new DataView(bytes.buffer).setUint16(0, value, little)
  return { tag, type: SHORT, count: 1, bytes }
}

export function longEntry(tag: number, value: number, little: boolean): DirectoryEntry {
  const bytes = new Uint8Array(4)
  new DataView(bytes.buffer).setUint32(0, value, little)
  return { tag, type: LONG, count: 1, bytes }
}

/** A fraction of two whole numbers below 2³². */
export function rationalEntry(tag: number, [numerator, denominator]: [number, number], little: boolean): DirectoryEntry {
  const bytes = new Uint8Array(8)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, numerator, little)
  view.setUint32(4, denominator, little)
  return { tag, type: RATIONAL, count: 1, bytes }
}

const even = (length: number) => length + (length & 1)
