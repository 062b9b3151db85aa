import type { Rectangle } from '@/core/raster'
import { areaSchema, asideSchema, check, InputError } from '@/schemas'
import { frameArea, thumbnail, zoomPyramid } from '@/server'
import { bodyOf, idOf, respond, sendFile } from '../../../respond'

const TYPES: Record<string, string> = { jpg: 'image/jpeg', jpeg: 'image/jpeg', png: 'image/png', tif: 'image/tiff', tiff: 'image/tiff' }

/** A frame as `thumb`nail, as the description of its zoom pyramid (`zoom`), an `area` (x, y, width, height) without loss, or the `original` file. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ db, store }) => {
    const id = await idOf(params)
    const { what } = await params
    const frame = await db.selectFrom('frame').select(['name', 'run_id']).where('id', '=', id).executeTakeFirst()
    if (!frame) throw new InputError('This frame does not exist any more; go back to the shoot.')
    const file = store.folders.frame(frame.run_id, frame.name)
    if (what === 'thumb') return sendFile(await thumbnail(file, store.folders.derived('thumbs', `frame-${id}.jpg`)), 'image/jpeg')
    if (what === 'zoom') return sendFile(await zoomPyramid(file, store.folders.derived('zoom', `frame-${id}`)), 'application/xml')
    if (what === 'area') {
      const asked = Object.fromEntries(new URL(request.url).searchParams)
      const png = await frameArea(file, check<Rectangle>(areaSchema, asked))
      return new Response(new Uint8Array(png), { headers: { 'content-type': 'image/png' } })
    }
    if (what === 'original') return sendFile(file, TYPES[file.split('.').at(-1)!.toLowerCase()] ?? 'application/octet-stream')
    throw new InputError('This address names nothing.')
  })

/** Sets a frame aside (`{"aside": true}`), restores it (`false`), or leaves it to the survey again (`null`). Nothing is deleted. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ db }) => {
    const id = await idOf(params)
    if ((await params).what !== 'aside') throw new InputError('This address names nothing.')
    const { aside } = check<{ aside: boolean | null }>(asideSchema, await bodyOf(request))
    const { numUpdatedRows } = await db
      .updateTable('frame')
      .set({ aside: aside === null ? null : Number(aside) })
      .where('id', '=', id)
      .executeTakeFirst()
    if (Number(numUpdatedRows) === 0) throw new InputError('This frame does not exist any more; go back to the shoot.')
    return undefined
  })
