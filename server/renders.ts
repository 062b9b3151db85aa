import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import slugify from 'slugify'
import type { PictureFormat } from '@/codec'
import { isRefusal, refusal } from '@/core/words'
import type { Database, Folders, Render } from '@/database'
import type { Place } from '@/core/inspect'
import type { Recipe } from '@/core/finish'
import {
  LOSSLESS,
  checkBends,
  checkRegistration,
  registrationOf,
  storedPlaces,
  storedReport,
  type FinishedFormat,
  type Registration,
} from '@/schemas'

export const REGISTRATION_FILE = 'registration.json'
/** Places that are worth a look, once they were looked for. */
export const PLACES_FILE = 'places.json'
/** File of an older render in which it stands how its frames were bent. */
const BENDS_FILE = 'bends.json'

/** Pictures that a render is written as anew, each by a job. */
export const PICTURE_FORMATS = ['tif', 'png', 'jpg'] as const satisfies PictureFormat[]

/** What a render is delivered as: pictures are `made` by a job, what lies beside them is given as it is `kept`. */
const DELIVERED = {
  tif: { type: 'image/tiff', made: true },
  png: { type: 'image/png', made: true },
  jpg: { type: 'image/jpeg', made: true },
  depth: { type: 'image/png', kept: 'depth.png' },
  confidence: { type: 'image/png', kept: 'confidence.png' },
  ply: { type: 'application/octet-stream', kept: 'relief.ply' },
  json: { type: 'application/json', kept: 'report.json' },
} satisfies Record<string, Format>
export type Delivery = keyof typeof DELIVERED
export const DELIVERIES = Object.keys(DELIVERED) as Delivery[]

interface Format {
  type: string
  made?: boolean
  kept?: string
}

/** A file to take away: where it lies, and what it is called. */
export interface Delivered {
  file: string
  name: string
  type: string
}

/** A render that is not in the bin. @throws Refusal where there is none. */
export async function renderOf(db: Database, renderId: number): Promise<Render> {
  const render = await db.selectFrom('render').selectAll().where('id', '=', renderId).where('binned_at', 'is', null).executeTakeFirst()
  if (!render) throw refusal('render.gone')
  return render
}

/** A render as a file to take away; a picture has to be made by a job of kind `deliver` before. */
export async function delivered(db: Database, folders: Folders, renderId: number, format: Delivery): Promise<Delivered> {
  const render = await renderOf(db, renderId)
  const { type, kept, made }: Format = DELIVERED[format]
  const file = made
    ? deliveredFile(folders, render, format as PictureFormat)
    : path.join(/* turbopackIgnore: true */ folders.render(render.folder), kept!)
  return { file, type, name: await deliveredName(db, renderId, format) }
}

export function deliveredFile(folders: Folders, render: Pick<Render, 'id' | 'uid'>, format: PictureFormat): string {
  return folders.derived('delivered', `${render.uid}.${format}`)
}

/** For instance `ammonite_run1_lace_ref08_16bit.tif`. */
export async function deliveredName(db: Database, renderId: number, format: Delivery): Promise<string> {
  const row = await db
    .selectFrom('render')
    .innerJoin('run', 'run.id', 'render.run_id')
    .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
    .select(['render.report_json', 'shoot.title', 'run.number'])
    .where('render.id', '=', renderId)
    .executeTakeFirstOrThrow()
  const { style, reference, frames, settings } = storedReport(row.report_json)
  const place = frames.findIndex((frame) => frame.file === reference) + 1
  const moved = settings.register ? '' : '_unregistered'
  const slug = slugOf(row.title)
  return `${slug}_run${row.number}_${style}_ref${String(place).padStart(2, '0')}${moved}${endingOf(format, settings.bits)}`
}

/** What the reference frame of a render was taken with, as it is stored. */
export async function takenWith(db: Database, render: Render): Promise<string | null | undefined> {
  const { reference } = storedReport(render.report_json)
  const frame = await db.selectFrom('frame').select('exif_json').where('run_id', '=', render.run_id).where('name', '=', reference).executeTakeFirst()
  return frame?.exif_json
}

/** Where the finished pictures of a render lie until they are made anew. */
export const finishedFolder = (folders: Folders, { uid }: Pick<Render, 'uid'>): string => folders.derived('finished', uid)

/** For instance `ammonite_run1_lace_ref08_catalogue_2400px_srgb.jpg`. */
export async function finishedName(db: Database, renderId: number, recipe: Recipe, format: FinishedFormat, called?: string): Promise<string> {
  const stem = (await deliveredName(db, renderId, 'jpg')).replace(/\.jpg$/, '')
  const size = recipe.steps.findLast((step) => step.do === 'size')
  const parts = [
    called && slugOf(called),
    size && ('long_px' in size ? `${size.long_px}px` : `${Math.round(size.width_mm)}mm`),
    recipe.profile !== 'keep' && recipe.profile,
    LOSSLESS.includes(format) && `${recipe.bits}bit`,
  ]
  return `${[stem, ...parts.filter(Boolean)].join('_')}.${format}`
}

/** A finished picture to take away. @throws Refusal where there is none of that name. */
export async function finishedFile(db: Database, folders: Folders, renderId: number, name: string): Promise<Delivered> {
  const render = await renderOf(db, renderId)
  const known = await readdir(finishedFolder(folders, render)).catch((): string[] => [])
  if (!known.includes(name)) throw refusal('render.notKept')
  const format = path.extname(name).slice(1) as FinishedFormat
  return { file: path.join(/* turbopackIgnore: true */ finishedFolder(folders, render), name), name, type: FINISHED_TYPES[format] }
}

const FINISHED_TYPES: Record<FinishedFormat, string> = {
  tif: 'image/tiff',
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  avif: 'image/avif',
  ora: 'image/openraster',
}

/** A title as a part of file names. */
export const slugOf = (title: string): string => slugify(title, { lower: true, strict: true }) || 'shoot'

function endingOf(format: Delivery, bits: number): string {
  if (format === 'depth' || format === 'confidence') return `_${format}.png`
  return format === 'tif' || format === 'png' ? `_${bits}bit.${format}` : `.${format}`
}

/** Places of a render that are worth a look; null where nobody looked for them yet. */
export async function placesIn(folders: Folders, render: Render): Promise<{ places: Place[] | null }> {
  const file = path.join(/* turbopackIgnore: true */ folders.render(render.folder), PLACES_FILE)
  const text = await readFile(file, 'utf8').catch(() => undefined)
  return text === undefined ? { places: null } : storedPlaces(text)
}

/**
 * How the frames of a render lie on one another. Renders of older versions have it in two files, from which it is put together.
 * @throws Refusal where it is gone or cannot be read.
 */
export async function registrationIn(folders: Folders, render: Render): Promise<Registration> {
  const folder = folders.render(render.folder)
  const read = async (name: string): Promise<unknown> => {
    const text = await readFile(path.join(/* turbopackIgnore: true */ folder, name), 'utf8').catch(() => undefined)
    return text === undefined ? undefined : JSON.parse(text)
  }
  try {
    const kept = await read(REGISTRATION_FILE)
    if (kept !== undefined) return checkRegistration(kept)
    const bends = await read(BENDS_FILE)
    return registrationOf(storedReport(render.report_json), bends === undefined ? { frames: {} } : checkBends(bends))
  } catch (error) {
    if (error instanceof SyntaxError || isRefusal(error)) throw refusal('render.damaged')
    throw error
  }
}
