import { InputError } from '@/schemas'
import { thumbnail, zoomPyramid } from '@/server'
import { idOf, respond, sendFile } from '../../../respond'

/** A frame as `thumb`nail, as the description of its zoom pyramid (`zoom`), or the `original` file. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ db, store }) => {
    const id = await idOf(params)
    const { what } = await params
    const frame = await db.selectFrom('frame').select(['name', 'run_id']).where('id', '=', id).executeTakeFirst()
    if (!frame) throw new InputError('This frame does not exist any more; go back to the shoot.')
    const file = store.folders.frame(frame.run_id, frame.name)
    if (what === 'thumb') return sendFile(await thumbnail(file, store.folders.derived('thumbs', `frame-${id}.jpg`)), 'image/jpeg')
    if (what === 'zoom') return sendFile(await zoomPyramid(file, store.folders.derived('zoom', `frame-${id}`)), 'application/xml')
    if (what === 'original') return sendFile(file, 'application/octet-stream')
    throw new InputError('This address names nothing.')
  })
