import { readFile } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { encode, type PictureFormat } from '@/codec'
import { InputError, type FuseReport } from '@/schemas'
import type { Database } from './database'
import { Folders } from './pictures'

/** What a render is delivered as: pictures are encoded anew, what lies beside them is given as it is `kept`. */
const DELIVERED = {
  tif: { type: 'image/tiff', picture: 'tif' },
  png: { type: 'image/png', picture: 'png' },
  jpg: { type: 'image/jpeg', picture: 'jpg' },
  depth: { type: 'image/png', kept: 'depth.png' },
  confidence: { type: 'image/png', kept: 'confidence.png' },
  ply: { type: 'application/octet-stream', kept: 'relief.ply' },
  json: { type: 'application/json' },
} satisfies Record<string, Format>
export type Delivery = keyof typeof DELIVERED
export const DELIVERIES = Object.keys(DELIVERED) as Delivery[]

interface Format {
  type: string
  picture?: PictureFormat
  kept?: string
}

export interface Delivered {
  name: string
  type: string
  contents: Buffer
}

/** A render as a file to take away: the picture in 16 bits (8 for JPEG) or its report, settings in its name. */
export async function deliver(db: Database, folders: Folders, renderId: number, format: Delivery): Promise<Delivered> {
  const render = await db
    .selectFrom('render')
    .innerJoin('run', 'run.id', 'render.run_id')
    .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
    .select(['render.report_json', 'shoot.title', 'run.number'])
    .where('render.id', '=', renderId)
    .executeTakeFirst()
  if (!render) throw new InputError('This render does not exist any more; go back to the shoot.')
  const report = JSON.parse(render.report_json) as FuseReport
  const name = fileName(render.title, render.number, report, format)
  const folder = folders.render(renderId)
  const { type, ...from }: Format = DELIVERED[format]
  if (from.kept) return { name, type, contents: await kept(path.join(folder, from.kept)) }
  if (from.picture) return { name, type, contents: await picture(path.join(folder, 'result.tif'), from.picture, report) }
  return { name, type, contents: Buffer.from(render.report_json) }
}

async function kept(file: string): Promise<Buffer> {
  return readFile(file).catch(() => {
    throw new InputError('This render was made before such files were kept; fuse the run again.')
  })
}

function picture(file: string, format: PictureFormat, { settings }: FuseReport): Promise<Buffer> {
  const wide = settings.bits === 16 && format !== 'jpg'
  return encode(sharp(file).toColourspace(wide ? 'rgb16' : 'srgb'), format)
}

/** For instance `ammonite_run1_lace_ref08_16bit.tif`. */
function fileName(title: string, run: number, { style, reference, frames, settings }: FuseReport, format: Delivery): string {
  const slug =
    title
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'shoot'
  const place = frames.findIndex((frame) => frame.file === reference) + 1
  const moved = settings.register ? '' : '_unregistered'
  return `${slug}_run${run}_${style}_ref${String(place).padStart(2, '0')}${moved}${endingOf(format, settings.bits)}`
}

function endingOf(format: Delivery, bits: number): string {
  if (format === 'depth' || format === 'confidence') return `_${format}.png`
  return format === 'tif' || format === 'png' ? `_${bits}bit.${format}` : `.${format}`
}
