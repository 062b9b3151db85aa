import Joi from 'joi'
import { check, folderSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

type Place = { params: Promise<{ id: string }> }

const pauseSchema = Joi.object({ paused: Joi.boolean().required() })

/** How the import of a folder goes for this shoot; null where there was none. */
export const GET = (_: Request, { params }: Place) => respond(async ({ importing }) => ({ import: importing.of(await idOf(params)) }))

/** Begins to import a folder of this machine, inside the import folder, into a new run. */
export const POST = (request: Request, { params }: Place) =>
  respond(async ({ importing }) => {
    const { folder } = check<{ folder: string }>(folderSchema, await bodyOf(request))
    return { import: await importing.begin(await idOf(params), folder) }
  })

/** Has it rest, or go on: `{"paused": true}`. */
export const PUT = (request: Request, { params }: Place) =>
  respond(async ({ importing }) => {
    const { paused } = check<{ paused: boolean }>(pauseSchema, await bodyOf(request))
    await importing.pause(await idOf(params), paused)
    return undefined
  })

/** Imports no more of it; one that ended is told of no longer. */
export const DELETE = (_: Request, { params }: Place) =>
  respond(async ({ importing }) => {
    await importing.end(await idOf(params))
    return undefined
  })
