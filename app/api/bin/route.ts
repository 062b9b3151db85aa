import { binItemSchema, check, type BinKind } from '@/schemas'
import { bodyOf, respond } from '../respond'

/** Puts something back from the bin. */
export const POST = (request: Request) =>
  respond(async ({ bin }) => {
    const { kind, id } = check<{ kind: BinKind; id: number }>(binItemSchema, await bodyOf(request))
    await bin.putBack(kind, id)
    return undefined
  })

/** Empties the bin: what lies in it is deleted for good. */
export const DELETE = () => respond(async ({ bin }) => ({ deleted: await bin.empty(true) }))
