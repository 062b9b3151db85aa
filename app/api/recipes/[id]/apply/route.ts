import { batchSchema, check, type FinishedFormat } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Finishes renders by a kept recipe, each by a job of its own: `{ renders, format }`; answers the jobs. One that fails stops no other. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ recipes, work }) => {
    const { name, recipe } = await recipes.one(await idOf(params))
    const { renders, format } = check<{ renders: number[]; format: FinishedFormat }>(batchSchema, await bodyOf(request))
    const jobs: number[] = []
    for (const render of renders) jobs.push((await work.finish(render, { recipe, format, name })).id)
    return { jobs }
  })
