import path from 'node:path'
import { InputError, type FuseReport } from '@/schemas'
import { BENDS, colouredSourceMap, DELIVERIES, deliver, thumbnail, zoomPyramid, type Delivery } from '@/server'
import { idOf, respond, sendFile } from '../../../respond'

/** A render as `thumb`nail, `zoom` description, coloured source `map` or how its frames were `bends`, or delivered as `tif`, `png`, `jpg` or `json`. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ db, store }) => {
    const id = await idOf(params)
    const { what } = await params
    const folder = store.folders.render(id)
    if (DELIVERIES.includes(what as Delivery)) {
      const { name, type, contents } = await deliver(db, store.folders, id, what as Delivery)
      return new Response(new Uint8Array(contents), { headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` } })
    }
    const render = await db.selectFrom('render').select('report_json').where('id', '=', id).executeTakeFirst()
    if (!render) throw new InputError('This render does not exist any more; go back to the shoot.')
    if (what === 'thumb')
      return sendFile(await thumbnail(path.join(folder, 'result.tif'), store.folders.derived('thumbs', `render-${id}.jpg`)), 'image/jpeg')
    if (what === 'zoom')
      return sendFile(await zoomPyramid(path.join(folder, 'result.tif'), store.folders.derived('zoom', `render-${id}`)), 'application/xml')
    if (what === 'map') {
      const count = (JSON.parse(render.report_json) as FuseReport).frames.length
      return sendFile(await colouredSourceMap(path.join(folder, 'source.png'), store.folders.derived('maps', `render-${id}.png`), count), 'image/png')
    }
    if (what === 'bends') return sendFile(path.join(folder, BENDS), 'application/json')
    throw new InputError('This address names nothing.')
  })
