import { createReadStream, createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { pipeline } from 'node:stream/promises'
import sharp from 'sharp'
import { ZipFile } from 'yazl'

/** A layer's picture, with what it is called. */
export interface LayerFile {
  name: string
  /** A PNG as large as the whole. */
  file: string
  /** Whether it is seen at first. */
  visible: boolean
}

/** The longest side of the small picture that file managers show. */
const THUMBNAIL_px = 256

/**
 * Writes an OpenRaster file: layers from the top down, and the picture that they make. Entries are read one after the other, so that no more
 * than one is open. Source: OpenRaster baseline specification 0.0.5 (mimetype first and stored, stack.xml, mergedimage.png, thumbnail).
 */
export async function writeOpenRaster(
  out: string,
  { width, height }: { width: number; height: number },
  layers: LayerFile[],
  merged: string,
): Promise<void> {
  const zip = new ZipFile()
  const part = `${out}.part`
  const mtime = new Date(0)
  zip.addBuffer(Buffer.from('image/openraster'), 'mimetype', { compress: false, mtime })
  zip.addBuffer(Buffer.from(stackXml(width, height, layers)), 'stack.xml', { mtime })
  const add = (file: string, name: string) =>
    zip.addReadStreamLazy(name, { compress: false, mtime }, (callback) => callback(null, createReadStream(file)))
  layers.forEach(({ file }, k) => add(file, entryOf(k)))
  const thumbnail = await sharp(merged, { limitInputPixels: false })
    .resize({ width: THUMBNAIL_px, height: THUMBNAIL_px, fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .png()
    .toBuffer()
  zip.addBuffer(thumbnail, 'Thumbnails/thumbnail.png', { compress: false, mtime })
  add(merged, 'mergedimage.png')
  zip.end()
  try {
    await pipeline(zip.outputStream, createWriteStream(part))
    await rename(part, out)
  } catch (error) {
    await rm(part, { force: true })
    throw error
  }
}

const entryOf = (k: number) => `data/layer${String(k).padStart(3, '0')}.png`

function stackXml(width: number, height: number, layers: LayerFile[]): string {
  const lines = layers.map(
    ({ name, visible }, k) =>
      `    <layer name="${escaped(name)}" src="${entryOf(k)}" x="0" y="0" opacity="1.0" visibility="${visible ? 'visible' : 'hidden'}" composite-op="svg:src-over"/>`,
  )
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<image version="0.0.5" w="${width}" h="${height}">`,
    '  <stack>',
    ...lines,
    '  </stack>',
    '</image>',
    '',
  ].join('\n')
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`)
