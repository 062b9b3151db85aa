import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import slugify from 'slugify'
import { isRefusal, refusal } from '@/core/words'
import type { Database, Folders, Frame, Render } from '@/database'
import type { Place } from '@/core/inspect'
import type { Recipe } from '@/core/finish'
import {
  LOSSLESS,
  checkBends,
  checkRegistration,
  fileEnding,
  registrationOf,
  storedNeeded,
  storedPlaces,
  storedReport,
  type FinishedFormat,
  type NeededReport,
  type Registration,
  type Take,
  type TakeEnding,
} from '@/schemas'

export const REGISTRATION_FILE = 'registration.json'
/** Places that are worth a look, once they were looked for. */
export const PLACES_FILE = 'places.json'
export const NEEDED_FILE = 'needed.json'
/** Where so many frames lose most, as a small picture. */
export const lookFile = (frames: number) => `look-${frames}.png`
/** File of an older render in which it stands how its frames were bent. */
const BENDS_FILE = 'bends.json'

/** What lies beside the picture of a render and is given as it is. */
const KEPT = {
  depth: { type: 'image/png', file: 'depth.png', ending: '_depth.png' },
  confidence: { type: 'image/png', file: 'confidence.png', ending: '_confidence.png' },
  json: { type: 'application/json', file: 'report.json', ending: '.json' },
}
export type KeptFile = keyof typeof KEPT
export const KEPT_FILES = Object.keys(KEPT) as KeptFile[]

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

/** The frames that a render was made of and that still exist, wherever they were moved. Older reports name none: then those of its run. */
export async function framesOfRender(db: Database, { report_json, run_id }: Render): Promise<Frame[]> {
  const uids = storedReport(report_json).frames.flatMap(({ uid }) => uid ?? [])
  const query = db.selectFrom('frame').selectAll().where('binned_at', 'is', null)
  return uids.length > 0 ? query.where('uid', 'in', uids).execute() : query.where('run_id', '=', run_id).execute()
}

/** A file that lies beside the picture of a render, to take away. */
export async function keptFile(db: Database, folders: Folders, renderId: number, what: KeptFile): Promise<Delivered> {
  const render = await renderOf(db, renderId)
  const { type, file, ending } = KEPT[what]
  return { file: path.join(/* turbopackIgnore: true */ folders.render(render.folder), file), type, name: `${await stemOf(db, renderId)}${ending}` }
}

/** The stem of the names of a render's files, for instance `ammonite_run1_lace_ref08`. */
async function stemOf(db: Database, renderId: number): Promise<string> {
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
  return `${slug}_run${row.number}_${style}_ref${String(place).padStart(2, '0')}${moved}`
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
  const stem = await stemOf(db, renderId)
  const size = recipe.steps.findLast((step) => step.do === 'size')
  const parts = [
    called && slugOf(called),
    size && ('long_px' in size ? `${size.long_px}px` : `${Math.round(size.width_mm)}mm`),
    recipe.profile !== 'keep' && recipe.profile,
    LOSSLESS.includes(format) && `${recipe.bits}bit`,
    format === 'pages' && 'layers',
  ]
  return `${[stem, ...parts.filter(Boolean)].join('_')}.${fileEnding(format)}`
}

/** For instance `ammonite_run1_lace_ref08_rocking.webp`. */
export async function takenAlongName(db: Database, renderId: number, what: Take, ending: string): Promise<string> {
  const stem = await stemOf(db, renderId)
  return `${stem}_${what.toLowerCase()}.${ending}`
}

/** A finished picture to take away. @throws Refusal where there is none of that name. */
export async function finishedFile(db: Database, folders: Folders, renderId: number, name: string): Promise<Delivered> {
  const render = await renderOf(db, renderId)
  const known = await readdir(finishedFolder(folders, render)).catch((): string[] => [])
  if (!known.includes(name)) throw refusal('render.notKept')
  return {
    file: path.join(/* turbopackIgnore: true */ finishedFolder(folders, render), name),
    name,
    type: FINISHED_TYPES[path.extname(name).slice(1) as Ending],
  }
}

type Ending = Exclude<FinishedFormat, 'pages'> | TakeEnding

const FINISHED_TYPES: Record<Ending, string> = {
  tif: 'image/tiff',
  png: 'image/png',
  jpg: 'image/jpeg',
  webp: 'image/webp',
  avif: 'image/avif',
  ora: 'image/openraster',
  zip: 'application/zip',
  gif: 'image/gif',
  glb: 'model/gltf-binary',
  stl: 'model/stl',
  obj: 'model/obj',
  ply: 'application/octet-stream',
}

/** A title as a part of file names. */
export const slugOf = (title: string): string => slugify(title, { lower: true, strict: true }) || 'shoot'

/** Places of a render that are worth a look; null where nobody looked for them yet. */
export async function placesIn(folders: Folders, render: Render): Promise<{ places: Place[] | null }> {
  const file = path.join(/* turbopackIgnore: true */ folders.render(render.folder), PLACES_FILE)
  const text = await readFile(file, 'utf8').catch(() => undefined)
  return text === undefined ? { places: null } : storedPlaces(text)
}

/** How many frames were needed; null where it was not asked yet. */
export async function neededIn(folders: Folders, render: Render): Promise<{ needed: NeededReport | null }> {
  const file = path.join(/* turbopackIgnore: true */ folders.render(render.folder), NEEDED_FILE)
  const text = await readFile(file, 'utf8').catch(() => undefined)
  return { needed: text === undefined ? null : storedNeeded(text) }
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
