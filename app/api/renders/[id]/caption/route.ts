import { captionFactsOf, renderOf } from '@/server'
import { idOf, respond } from '../../../respond'

/** What is known of a render that a caption may tell. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db }) => captionFactsOf(db, await renderOf(db, await idOf(params))))
