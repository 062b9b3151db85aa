import path from 'node:path'
import { refusal, say } from '@/core/words'
import { storedReport } from '@/schemas'
import { colouredSourceMap, DELIVERIES, delivered, PICTURE_FORMATS, registrationIn, renderOf, thumbnail, zoomPyramid, type Delivery } from '@/server'
import { idOf, respond, sendFile } from '../../../respond'

type Place = { params: Promise<{ id: string; what: string }> }

/**
 * A render as `thumb`nail, `zoom` description, coloured source `map` or its `registration`; or a file to take away (`tif`, `png`,
 * `jpg`, once a POST has had it made; `depth`, `confidence`, `ply`, `json`).
 */
export const GET = (_: Request, { params }: Place) =>
  respond(async ({ db, store: { folders } }) => {
    const id = await idOf(params)
    const { what } = await params
    if (DELIVERIES.includes(what as Delivery)) {
      const { file, name, type } = await delivered(db, folders, id, what as Delivery)
      return sendFile(file, type, { name, gone: say('render.notKept') })
    }
    const render = await renderOf(db, id)
    const picture = path.join(folders.render(render.folder), 'result.tif')
    switch (what) {
      case 'thumb':
        return sendFile(await thumbnail(picture, folders.derived('thumbs', `render-${id}.jpg`)), 'image/jpeg')
      case 'zoom':
        return sendFile(await zoomPyramid(picture, folders.derived('zoom', `render-${id}`)), 'application/xml')
      case 'map': {
        const count = storedReport(render.report_json).frames.length
        const source = path.join(folders.render(render.folder), 'source.png')
        return sendFile(await colouredSourceMap(source, folders.derived('maps', `render-${id}.png`), count), 'image/png')
      }
      case 'registration':
        return registrationIn(folders, render)
      default:
        throw refusal('request.address')
    }
  })

/** Has a picture made to be taken away; answers the job that makes it, or none where it is there. */
export const POST = (_: Request, { params }: Place) =>
  respond(async ({ work }) => {
    const { what } = await params
    const format = PICTURE_FORMATS.find((known) => known === what)
    if (!format) throw refusal('request.address')
    const job = await work.deliver(await idOf(params), format)
    return { id: job?.id ?? null }
  })
