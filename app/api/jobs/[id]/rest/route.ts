import Joi from 'joi'
import { check } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

const schema = Joi.object({ resting: Joi.boolean().required() })

/** Has a running job rest before its next frame, or go on: `{"resting": true}`. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ jobs }) => {
    const { resting } = check<{ resting: boolean }>(schema, await bodyOf(request))
    await jobs.rest(await idOf(params), resting)
    return undefined
  })
