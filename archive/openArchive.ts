import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import { Transform, Writable, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { text } from 'node:stream/consumers'
import { promisify } from 'node:util'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { isRefusal, refusal } from '@/core/words'
import { check } from '@/schemas'
import { ARCHIVE_VERSION, hasPlace, MANIFEST_FILE, manifestSchema, type Manifest } from './manifest'

/** An archive whose every file was found to be what its manifest says. */
export interface OpenArchive {
  manifest: Manifest
  /** Takes a file out, checking it once more on the way. */
  extract(file: string, to: string): Promise<void>
  close(): void
}

/**
 * Opens an archive and reads all of it, so that damage is found before anything changes.
 * @throws Refusal naming what is wrong with it.
 */
export async function openArchive(file: string, progress: (file: number, of: number) => void = () => undefined): Promise<OpenArchive> {
  const name = path.basename(file)
  const zip = await open(file, name)
  try {
    const entries = await entriesOf(zip, name)
    const manifest = await manifestIn(zip, entries, name)
    const files = Object.keys(manifest.files)
    for (const [k, each] of files.entries()) {
      if (!hasPlace(each)) throw refusal('archive.outside', { name, file: each })
      await copyOut(zip, entries, manifest, each, name, nowhere())
      progress(k + 1, files.length)
    }
    const strange = [...entries.keys()].find((each) => each !== MANIFEST_FILE && !(each in manifest.files))
    if (strange) throw refusal('archive.outside', { name, file: strange })
    return {
      manifest,
      extract: async (each, to) => {
        await mkdir(path.dirname(to), { recursive: true })
        await copyOut(zip, entries, manifest, each, name, createWriteStream(to, { flush: true }))
      },
      close: () => zip.close(),
    }
  } catch (error) {
    zip.close()
    throw error
  }
}

async function open(file: string, name: string): Promise<ZipFile> {
  const openZip = promisify(yauzl.open) as (file: string, options: yauzl.Options) => Promise<ZipFile>
  return openZip(file, { lazyEntries: true, autoClose: false }).catch((error: NodeJS.ErrnoException) => {
    throw error.code === 'ENOENT' ? refusal('archive.missing', { name }) : refusal('archive.unreadable', { name })
  })
}

function entriesOf(zip: ZipFile, name: string): Promise<Map<string, Entry>> {
  return new Promise((resolve, reject) => {
    const entries = new Map<string, Entry>()
    zip.on('entry', (entry: Entry) => {
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.on('end', () => resolve(entries))
    zip.on('error', () => reject(refusal('archive.unreadable', { name })))
    zip.readEntry()
  })
}

async function manifestIn(zip: ZipFile, entries: Map<string, Entry>, name: string): Promise<Manifest> {
  try {
    const written: unknown = JSON.parse(await text(await streamOf(zip, entries.get(MANIFEST_FILE)!)))
    if ((written as Manifest).version > ARCHIVE_VERSION) throw refusal('archive.newer', { name })
    return check(manifestSchema, written)
  } catch (error) {
    throw isRefusal(error) && error.code === 'archive.newer' ? error : refusal('archive.unreadable', { name })
  }
}

async function copyOut(zip: ZipFile, entries: Map<string, Entry>, manifest: Manifest, file: string, name: string, to: Writable): Promise<void> {
  const entry = entries.get(file)
  if (!entry) throw refusal('archive.damaged', { name, file })
  const hash = createHash('sha256')
  const through = new Transform({
    transform: (chunk: Buffer, _, next) => {
      hash.update(chunk)
      next(null, chunk)
    },
  })
  await streamOf(zip, entry)
    .then((from) => pipeline(from, through, to))
    .catch((error: NodeJS.ErrnoException) => {
      // What the disk refuses is reported as such; all else is the archive's fault.
      throw error.syscall ? error : refusal('archive.damaged', { name, file })
    })
  if (hash.digest('hex') !== manifest.files[file].sha256) throw refusal('archive.damaged', { name, file })
}

function streamOf(zip: ZipFile, entry: Entry): Promise<Readable> {
  return new Promise((resolve, reject) => zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream))))
}

const nowhere = () => new Writable({ write: (_, __, next) => next() })
