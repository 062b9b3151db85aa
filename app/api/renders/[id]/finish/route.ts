import { check, checkRecipe, finishRequestSchema, type FinishedFormat } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Has a render finished: `{ recipe, format }`; answers the job, whose result names the file. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => {
    const asked = check<{ recipe: unknown; format: FinishedFormat; name?: string }>(finishRequestSchema, await bodyOf(request, 4000))
    const { id } = await work.finish(await idOf(params), { ...asked, recipe: checkRecipe(asked.recipe) })
    return { id }
  })
