import { readFile } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { encode, type PictureFormat } from '@/codec'
import { InputError, type FuseReport } from '@/schemas'
import type { Database } from './database'
import { Folders } from './pictures'

export const DELIVERIES = ['tif', 'png', 'jpg', 'depth', 'confidence', 'ply', 'json'] as const
export type Delivery = (typeof DELIVERIES)[number]

export interface Delivered {
  name: string
  type: string
  contents: Buffer
}

const TYPES: Record<Delivery, string> = {
  tif: 'image/tiff',
  png: 'image/png',
  jpg: 'image/jpeg',
  depth: 'image/png',
  confidence: 'image/png',
  ply: 'application/octet-stream',
  json: 'application/json',
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
  const beside = BESIDE[format]
  if (beside) return { name, type: TYPES[format], contents: await kept(path.join(folder, beside)) }
  const contents =
    format === 'json' ? Buffer.from(render.report_json) : await picture(path.join(folder, 'result.tif'), format as PictureFormat, report)
  return { name, type: TYPES[format], contents }
}

/** What is kept beside the picture as it is delivered. */
const BESIDE: Partial<Record<Delivery, string>> = { depth: 'depth.png', confidence: 'confidence.png', ply: 'relief.ply' }

async function kept(file: string): Promise<Buffer> {
  return readFile(file).catch(() => {
    throw new InputError('This render was made before there were reliefs; fuse the run again.')
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
  const isMap = format === 'depth' || format === 'confidence'
  const what = format === 'tif' || format === 'png' ? `_${settings.bits}bit` : isMap ? `_${format}` : ''
  const moved = settings.register ? '' : '_unregistered'
  return `${slug}_run${run}_${style}_ref${String(place).padStart(2, '0')}${moved}${what}.${isMap ? 'png' : format}`
}
