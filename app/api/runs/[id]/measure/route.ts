import { check, targetFactsSchema, type TargetFile } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Has focus measured from a run of the printed sheet; answers the job. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => ({ id: (await work.measure(await idOf(params), check<TargetFile>(targetFactsSchema, await bodyOf(request)))).id }))
