import { open, readFile, writeFile, type FileHandle } from 'node:fs/promises'
import { crc32, deflateSync } from 'node:zlib'
import {
  asciiEntry,
  directoryBytes,
  exifBlock,
  EXIF_DIRECTORY,
  exifEntries,
  longEntry,
  mainEntries,
  UNDEFINED,
  type DirectoryEntry,
  type TakenWith,
} from '@/core/formats'
import type { PictureFormat } from './format'

/** What a picture says of itself beside its pixels. */
export interface Tags {
  /** Profile of the space that the samples are in. */
  icc?: Buffer
  taken?: TakenWith
  /** What wrote the picture. */
  software?: string
}

const NITIDUS = 'Nitidus'

/**
 * Puts a colour profile and EXIF into a picture that was just written, without touching its samples: they are in that
 * profile's space already, and the encoder would convert them. Sources: ICC.1:2022 annex B, PNG 3rd edition 11.3, Exif 2.32.
 */
export async function tagPicture(file: string, format: PictureFormat, tags: Tags): Promise<void> {
  if (!tags.icc && !tags.taken) return
  await INTO[format](file, tags)
}

const INTO: Record<PictureFormat, (file: string, tags: Tags) => Promise<void>> = {
  tif: (file, tags) => intoTiff(file, tags),
  png: (file, tags) => putIn(file, PNG_HEADER, pngChunks(tags)),
  jpg: (file, tags) => putIn(file, JPEG_START, jpegSegments(tags)),
}

async function putIn(file: string, at: number, parts: Buffer[]): Promise<void> {
  const whole = await readFile(file)
  await writeFile(file, Buffer.concat([whole.subarray(0, at), ...parts, whole.subarray(at)]))
}

/** The marker that every JPEG begins with. */
const JPEG_START = 2

/** Signature and IHDR, which everything else follows. */
const PNG_HEADER = 33

function pngChunks({ icc, taken, software = NITIDUS }: Tags): Buffer[] {
  return [
    ...(icc ? [pngChunk('iCCP', Buffer.concat([Buffer.from('profile\0\0', 'latin1'), deflateSync(icc)]))] : []),
    ...(taken ? [pngChunk('eXIf', Buffer.from(exifBlock(taken, software)))] : []),
  ]
}

function pngChunk(type: string, contents: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(type, 'latin1'), contents])
  const chunk = Buffer.alloc(body.length + 8)
  chunk.writeUInt32BE(contents.length, 0)
  body.copy(chunk, 4)
  chunk.writeUInt32BE(crc32(body), body.length + 4)
  return chunk
}

const MOST_SEGMENT = 65_519
const APP1 = 0xe1
const APP2 = 0xe2

function jpegSegments({ icc, taken, software = NITIDUS }: Tags): Buffer[] {
  const count = icc ? Math.ceil(icc.length / MOST_SEGMENT) : 0
  return [
    // EXIF comes first, or some readers do not find it.
    ...(taken ? [jpegSegment(APP1, 'Exif\0\0', Buffer.from(exifBlock(taken, software)))] : []),
    ...Array.from({ length: count }, (_, k) =>
      jpegSegment(APP2, `ICC_PROFILE\0${String.fromCharCode(k + 1, count)}`, icc!.subarray(k * MOST_SEGMENT, (k + 1) * MOST_SEGMENT)),
    ),
  ]
}

function jpegSegment(marker: number, name: string, contents: Buffer): Buffer {
  const head = Buffer.from([0xff, marker, 0, 0, ...Buffer.from(name, 'latin1')])
  head.writeUInt16BE(head.length - 2 + contents.length, 2)
  return Buffer.concat([head, contents])
}

const TIFF_PROFILE = 34_675
const PAGE_NAME = 285
const ENTRY = 12

/** What a page of a TIFF is called, and the profile of its samples where that is its own. */
export interface Page {
  name?: string
  icc?: Buffer
}

/** Bytes of a TIFF file, in its byte order. */
interface Tiff {
  handle: FileHandle
  little: boolean
  u16: (from: Buffer, at: number) => number
  u32: (from: Buffer, at: number) => number
}

/**
 * Every directory is written anew at the end, with what it refers to behind it; the pictures themselves stay where they are. Pages get the
 * profile each, or their own, and their names; EXIF goes into the first.
 */
async function intoTiff(file: string, { icc: usual, taken, software = NITIDUS }: Tags, each: Page[] = []): Promise<void> {
  const handle = await open(file, 'r+')
  try {
    const header = await bytesAt(handle, 0, 8)
    const little = header.toString('latin1', 0, 2) === 'II'
    const u16 = (b: Buffer, o: number) => (little ? b.readUInt16LE(o) : b.readUInt16BE(o))
    const u32 = (b: Buffer, o: number) => (little ? b.readUInt32LE(o) : b.readUInt32BE(o))
    if (u16(header, 2) !== 42) throw new Error('Only TIFF files of up to 4 GB can be tagged.')
    const tiff: Tiff = { handle, little, u16, u32 }
    const pages: { stays: DirectoryEntry[] }[] = []
    for (let at = u32(header, 4); at !== 0;) {
      const { entries, next } = await directoryAt(tiff, at)
      pages.push({ stays: entries })
      at = next
    }
    const { size } = await handle.stat()
    const start = size + (size & 1)
    const parts: Uint8Array[] = []
    let at = start
    for (const [k, { stays }] of pages.entries()) {
      const { name, icc = usual } = each[k] ?? {}
      const own = k === 0 ? taken : undefined
      const added: DirectoryEntry[] = [
        ...(icc ? [{ tag: TIFF_PROFILE, type: UNDEFINED, count: icc.length, bytes: new Uint8Array(icc) }] : []),
        ...(own ? [...mainEntries(own, software), longEntry(EXIF_DIRECTORY, 0, little)] : []),
        ...(name === undefined ? [] : [asciiEntry(PAGE_NAME, name)]),
      ]
      const all = [...stays.filter(({ tag }) => !added.some((entry) => entry.tag === tag)), ...added]
      // The EXIF directory lies behind its own, whose length does not hang on where that is.
      const inside_at = at + directoryBytes(all, at, little).length
      const placed = all.map((entry) => (entry.tag === EXIF_DIRECTORY && own ? longEntry(EXIF_DIRECTORY, inside_at, little) : entry))
      const inside = own ? directoryBytes(exifEntries(own, little), inside_at, little) : new Uint8Array(0)
      const next = inside_at + inside.length
      parts.push(directoryBytes(placed, at, little, k + 1 < pages.length ? next : 0), inside)
      at = next
    }
    await handle.write(Buffer.concat(parts), 0, undefined, start)
    if (little) header.writeUInt32LE(start, 4)
    else header.writeUInt32BE(start, 4)
    await handle.write(header, 0, 8, 0)
  } finally {
    await handle.close()
  }
}

async function directoryAt({ handle, u16, u32 }: Tiff, at: number): Promise<{ entries: DirectoryEntry[]; next: number }> {
  const count = u16(await bytesAt(handle, at, 2), 0)
  const bytes = await bytesAt(handle, at + 2, count * ENTRY + 4)
  const entries = Array.from({ length: count }, (_, k) => bytes.subarray(k * ENTRY, (k + 1) * ENTRY)).map((entry) =>
    keptEntry(entry, u16(entry, 0), u16(entry, 2), u32(entry, 4)),
  )
  return { entries, next: u32(bytes, count * ENTRY) }
}

/** The same for a TIFF of several pages. */
export const tagPages = (file: string, tags: Tags, pages: Page[]): Promise<void> => intoTiff(file, tags, pages)

/** An entry as it stands: its four last bytes are its value, or where that lies, which does not change. */
function keptEntry(entry: Buffer, tag: number, type: number, count: number): DirectoryEntry {
  return { tag, type, count, bytes: new Uint8Array(entry.subarray(8, 12)) }
}

async function bytesAt(handle: FileHandle, at: number, count: number): Promise<Buffer> {
  const { buffer } = await handle.read(Buffer.alloc(count), 0, count, at)
  return buffer
}
