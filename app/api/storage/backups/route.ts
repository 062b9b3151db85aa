import { check, backupSchema } from '@/schemas'
import { bodyOf, respond } from '../../respond'

/** Queues a backup of everything, or of the shoots that are named. */
export const POST = (request: Request) =>
  respond(async ({ jobs, shoots }) => {
    const asked = check<{ shoots?: number[] }>(backupSchema, await bodyOf(request))
    for (const id of asked.shoots ?? []) await shoots.shoot(id)
    return { id: (await jobs.add('backup', {}, asked)).id }
  })
