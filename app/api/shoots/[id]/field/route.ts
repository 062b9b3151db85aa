import { refusal } from '@/core/words'
import { check, fieldLogSchema, type FieldLogRequest } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

const MOST_kB = 1000

/** Takes in entries of the field log; sent again, they change nothing. Those of a card file say which shoot it was made for. */
export const POST = (body: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, field }) => {
    const { id, uid } = await shoots.shoot(await idOf(params))
    const { entries, shoot } = check<FieldLogRequest>(fieldLogSchema, await bodyOf(body, MOST_kB))
    if (shoot && shoot.uid !== uid) throw refusal('carried.other', { title: shoot.title })
    await field.add(id, entries)
    return { kept: entries.length }
  })
