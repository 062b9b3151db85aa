import { open, readFile, writeFile, type FileHandle } from 'node:fs/promises'
import { crc32, deflateSync } from 'node:zlib'
import type { PictureFormat } from './format'

/**
 * Puts a colour profile into a picture that was just written: the samples are in that profile's space already, as frames are
 * fused in their own, and the encoder would convert them. By the book: ICC.1 (2022), annex B.
 */
export async function attachProfile(file: string, format: PictureFormat, profile: Buffer): Promise<void> {
  if (format === 'tif') return intoTiff(file, profile)
  const whole = await readFile(file)
  const [at, part] = format === 'png' ? [PNG_HEADER, pngChunk(profile)] : [2, jpegSegments(profile)]
  await writeFile(file, Buffer.concat([whole.subarray(0, at), part, whole.subarray(at)]))
}

/** Signature and IHDR, which everything else follows. */
const PNG_HEADER = 33

function pngChunk(profile: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from('iCCPprofile\0\0', 'latin1'), deflateSync(profile)])
  const chunk = Buffer.alloc(body.length + 8)
  chunk.writeUInt32BE(body.length - 4, 0)
  body.copy(chunk, 4)
  chunk.writeUInt32BE(crc32(body), body.length + 4)
  return chunk
}

const MOST_SEGMENT = 65_519

function jpegSegments(profile: Buffer): Buffer {
  const count = Math.ceil(profile.length / MOST_SEGMENT)
  return Buffer.concat(
    Array.from({ length: count }, (_, k) => {
      const part = profile.subarray(k * MOST_SEGMENT, (k + 1) * MOST_SEGMENT)
      const head = Buffer.from([0xff, 0xe2, 0, 0, ...Buffer.from('ICC_PROFILE\0', 'latin1'), k + 1, count])
      head.writeUInt16BE(part.length + 16, 2)
      return Buffer.concat([head, part])
    }),
  )
}

const TIFF_PROFILE = 34_675
const ENTRY = 12

/** The directory is written anew at the end, with the profile behind it; the picture itself stays where it is. */
async function intoTiff(file: string, profile: Buffer): Promise<void> {
  const handle = await open(file, 'r+')
  try {
    const header = await bytesAt(handle, 0, 8)
    const little = header.toString('latin1', 0, 2) === 'II'
    const u16 = (b: Buffer, o: number) => (little ? b.readUInt16LE(o) : b.readUInt16BE(o))
    const u32 = (b: Buffer, o: number) => (little ? b.readUInt32LE(o) : b.readUInt32BE(o))
    const put16 = (b: Buffer, v: number, o: number) => (little ? b.writeUInt16LE(v, o) : b.writeUInt16BE(v, o))
    const put32 = (b: Buffer, v: number, o: number) => (little ? b.writeUInt32LE(v, o) : b.writeUInt32BE(v, o))
    if (u16(header, 2) !== 42) throw new Error('Only TIFF files of up to 4 GB take a profile.')
    const directory = u32(header, 4)
    const count = u16(await bytesAt(handle, directory, 2), 0)
    const old = await bytesAt(handle, directory + 2, count * ENTRY + 4)
    const { size } = await handle.stat()
    const at = size + (size & 1)
    const entries = Array.from({ length: count }, (_, k) => old.subarray(k * ENTRY, (k + 1) * ENTRY)).filter((e) => u16(e, 0) !== TIFF_PROFILE)
    const added = Buffer.alloc(ENTRY)
    const made = Buffer.alloc(2 + (entries.length + 1) * ENTRY + 4)
    put16(added, TIFF_PROFILE, 0)
    put16(added, 7, 2)
    put32(added, profile.length, 4)
    put32(added, at + made.length, 8)
    const sorted = [...entries, added].sort((a, b) => u16(a, 0) - u16(b, 0))
    put16(made, sorted.length, 0)
    sorted.forEach((entry, k) => entry.copy(made, 2 + k * ENTRY))
    old.copy(made, made.length - 4, count * ENTRY)
    await handle.write(Buffer.concat([made, profile]), 0, undefined, at)
    put32(header, at, 4)
    await handle.write(header, 0, 8, 0)
  } finally {
    await handle.close()
  }
}

async function bytesAt(handle: FileHandle, at: number, count: number): Promise<Buffer> {
  const { buffer } = await handle.read(Buffer.alloc(count), 0, count, at)
  return buffer
}
