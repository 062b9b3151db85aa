import { check, takeRequestSchema, type Take, type TakeEnding } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Has something written to take along: `{ what, ending }`; answers the job, whose result names the file that `finished` gives. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => {
    const asked = check<{ what: Take; ending: TakeEnding }>(takeRequestSchema, await bodyOf(request))
    return { id: (await work.take(await idOf(params), asked)).id }
  })
