import { createReadStream, createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { pipeline } from 'node:stream/promises'
import { ZipFile } from 'yazl'

/** An entry of an archive: bytes, a file that is there, or one that is made when its turn comes and removed behind it. */
export type Entry = { name: string; compress?: boolean } & ({ bytes: Buffer } | { file: string } | { make: () => Promise<string> })

/**
 * Writes an archive in one step, its entries in order. What is made is made one after the other, so that no more than one lies on the disk
 * beside the archive. The same entries give the same bytes.
 */
export async function writeZip(out: string, entries: Entry[]): Promise<void> {
  const zip = new ZipFile()
  const part = `${out}.part`
  const mtime = new Date(0)
  for (const { name, compress = false, ...what } of entries) {
    if ('bytes' in what) zip.addBuffer(what.bytes, name, { compress, mtime })
    else if ('file' in what) zip.addReadStreamLazy(name, { compress, mtime }, (callback) => callback(null, createReadStream(what.file)))
    else
      zip.addReadStreamLazy(name, { compress, mtime }, (callback) => {
        what.make().then(
          (file) =>
            callback(
              null,
              createReadStream(file).on('close', () => void rm(file, { force: true })),
            ),
          (error: Error) => zip.emit('error', error),
        )
      })
  }
  zip.end()
  zip.on('error', (error: Error) => (zip.outputStream as NodeJS.ReadableStream & { destroy: (error: Error) => void }).destroy(error))
  try {
    await pipeline(zip.outputStream, createWriteStream(part))
    await rename(part, out)
  } catch (error) {
    await rm(part, { force: true })
    throw error
  }
}
