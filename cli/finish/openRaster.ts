import sharp from 'sharp'
import { writeZip } from '../zip'

/** A layer's picture, with what it is called. */
export interface LayerFile {
  name: string
  /** A PNG as large as the whole. */
  file: string
  /** Whether it is seen at first. */
  visible: boolean
  /** Profile of its samples. */
  icc?: Buffer
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
  const thumbnail = await sharp(merged, { limitInputPixels: false })
    .resize({ width: THUMBNAIL_px, height: THUMBNAIL_px, fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .png()
    .toBuffer()
  await writeZip(out, [
    { name: 'mimetype', bytes: Buffer.from('image/openraster') },
    { name: 'stack.xml', bytes: Buffer.from(stackXml(width, height, layers)), compress: true },
    ...layers.map(({ file }, k) => ({ name: entryOf(k), file })),
    { name: 'Thumbnails/thumbnail.png', bytes: thumbnail },
    { name: 'mergedimage.png', file: merged },
  ])
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
