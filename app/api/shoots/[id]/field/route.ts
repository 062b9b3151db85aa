import type { FieldEntry } from '@/core/field'
import { check, fieldLogSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

const MOST_kB = 1000

/** Takes in entries of the field log; sent again, they change nothing. */
export const POST = (body: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, field }) => {
    const { id } = await shoots.shoot(await idOf(params))
    const { entries } = check<{ entries: FieldEntry[] }>(fieldLogSchema, await bodyOf(body, MOST_kB))
    await field.add(id, entries)
    return { kept: entries.length }
  })
