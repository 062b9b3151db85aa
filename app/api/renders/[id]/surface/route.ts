import { refusal } from '@/core/words'
import { renderOf, surfaceFactsOf } from '@/server'
import { idOf, respond } from '../../../respond'

/** What the depth of a render stands for, where its slices lie, and how large a pixel is. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db }) => {
    const facts = await surfaceFactsOf(db, await renderOf(db, await idOf(params)))
    if (!facts) throw refusal('take.noDepth')
    return facts
  })
