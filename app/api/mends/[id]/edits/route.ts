import type { MendEdit } from '@/core/mend'
import { check, newEditsSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** A long stroke has many points. */
const MOST_kB = 2000

/** Adds edits to a mend, and answers it as it stands now: what another tab added meanwhile is in it. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ mends }) => {
    const { edits } = check<{ edits: MendEdit[] }>(newEditsSchema, await bodyOf(request, MOST_kB))
    return mends.add(await idOf(params), edits)
  })
