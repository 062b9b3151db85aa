import { refusal, say } from '@/core/words'
import { asideSchema, cardPlaceSchema, check } from '@/schemas'
import { cardIn, thumbnail, zoomPyramid } from '@/server'
import { sendArea } from '../../../area'
import { bodyOf, idOf, respond, sendFile } from '../../../respond'

/** What an original is sent as: by what it was checked to be when it came, never as something that a browser would run. */
const TYPES: Record<string, string> = { jpg: 'image/jpeg', jpeg: 'image/jpeg', png: 'image/png', tif: 'image/tiff', tiff: 'image/tiff' }

/**
 * A frame as `thumb`nail, as the description of its zoom pyramid (`zoom`), an `area` (x, y, width, height) without loss, the
 * colour of a grey `card` at a place (x, y), or the `original` file.
 */
export const GET = (request: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ shoots, store }) => {
    const { what } = await params
    const frame = await shoots.frameRow(await idOf(params))
    const { id, name } = frame
    const { folders } = store
    if (what === 'original') {
      const gone = say('frame.fileGone', { name })
      return sendFile(folders.frame(frame.run_id, frame.file), TYPES[name.split('.').at(-1)!.toLowerCase()] ?? 'application/octet-stream', { gone })
    }
    // A small picture is there at once; what is looked at closely is developed first.
    const file = what === 'thumb' ? await store.shownOf(frame) : await store.pictureOf(frame)
    switch (what) {
      case 'thumb':
        return sendFile(await thumbnail(file, folders.derived('thumbs', `frame-${id}.jpg`)), 'image/jpeg')
      case 'zoom':
        return sendFile(await zoomPyramid(file, folders.derived('zoom', `frame-${id}`)), 'application/xml')
      case 'card': {
        const { x, y } = check<{ x: number; y: number }>(cardPlaceSchema, Object.fromEntries(new URL(request.url).searchParams))
        return Response.json({ card: await cardIn(file, [x, y]) })
      }
      case 'area':
        return sendArea(file, request, folders.incoming())
      default:
        throw refusal('request.address')
    }
  })

/** Sets a frame aside (`{"aside": true}`), restores it (`false`), or leaves it to the survey again (`null`). Nothing is deleted. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ shoots }) => {
    const id = await idOf(params)
    if ((await params).what !== 'aside') throw refusal('request.address')
    const { aside } = check<{ aside: boolean | null }>(asideSchema, await bodyOf(request))
    await shoots.setAside(id, aside)
    return undefined
  })
