import path from 'node:path'
import { refusal, say } from '@/core/words'
import { check, depthsSchema, lookSchema, pixelSchema, storedReport, viewSchema } from '@/schemas'
import {
  colouredSourceMap,
  KEPT_FILES,
  keptFile,
  depthArea,
  lookFile,
  neededIn,
  linesThrough,
  walkOver,
  placesIn,
  registrationIn,
  renderOf,
  sourceAt,
  thumbnail,
  zoomPyramid,
  type KeptFile,
} from '@/server'
import { areaOf, sendArea, sendSamples } from '../../../area'
import { idOf, respond, sendFile } from '../../../respond'

type Place = { params: Promise<{ id: string; what: string }> }

/**
 * A render as `thumb`nail, `zoom` description, coloured source `map`, its `registration`, the `places` worth a look, an `area` of it, of its `depths` or their `confidences` without loss, `lines` laid through those, a `walk` over it by them,
 * how many frames were `needed`, a `look` at what fewer lose,
 * or the frame that is seen `at` a pixel; or a file that lies beside it, to take away (`depth`, `confidence`, `json`).
 */
export const GET = (request: Request, { params }: Place) =>
  respond(async ({ db, store: { folders } }) => {
    const id = await idOf(params)
    const { what } = await params
    if (KEPT_FILES.includes(what as KeptFile)) {
      const { file, name, type } = await keptFile(db, folders, id, what as KeptFile)
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
      case 'area':
        return sendArea(picture, request, folders.incoming())
      case 'depths':
        return sendSamples(await depthArea(path.join(folders.render(render.folder), 'depth.png'), areaOf(request)), 16)
      case 'confidences':
        return sendSamples(await depthArea(path.join(folders.render(render.folder), 'confidence.png'), areaOf(request)), 16)
      case 'lines': {
        const { depths } = check<{ depths: string }>(depthsSchema, Object.fromEntries(new URL(request.url).searchParams))
        return { lines: await linesThrough(path.join(folders.render(render.folder), 'depth.png'), depths.split(',').map(Number)) }
      }
      case 'walk': {
        const view = check<{ width: number; height: number }>(viewSchema, Object.fromEntries(new URL(request.url).searchParams))
        return { views: await walkOver(path.join(folders.render(render.folder), 'depth.png'), view) }
      }
      case 'at': {
        const { x, y } = check<{ x: number; y: number }>(pixelSchema, Object.fromEntries(new URL(request.url).searchParams))
        const index = await sourceAt(path.join(folders.render(render.folder), 'source.png'), x, y)
        if (index === undefined) throw refusal('render.outside')
        return { index }
      }
      case 'places':
        return placesIn(folders, render)
      case 'needed':
        return neededIn(folders, render)
      case 'look': {
        const { frames } = check<{ frames: number }>(lookSchema, Object.fromEntries(new URL(request.url).searchParams))
        const file = path.join(folders.render(render.folder), lookFile(frames))
        return sendFile(file, 'image/png', { gone: say('render.notKept') })
      }
      case 'registration':
        return registrationIn(folders, render)
      default:
        throw refusal('request.address')
    }
  })

/** Has the `places` looked for that are worth a look, or how many frames were `needed`; answers the job. */
export const POST = (_: Request, { params }: Place) =>
  respond(async ({ work }) => {
    const id = await idOf(params)
    switch ((await params).what) {
      case 'places':
        return { id: (await work.inspect(id)).id }
      case 'needed':
        return { id: (await work.needed(id)).id }
      default:
        throw refusal('request.address')
    }
  })
