import { check, runNotesSchema, type RunNotes } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Keeps what is noted of a run: stars, words, tags. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ logbook }) => {
    await logbook.note(await idOf(params), check<Partial<RunNotes>>(runNotesSchema, await bodyOf(request)))
    return undefined
  })
