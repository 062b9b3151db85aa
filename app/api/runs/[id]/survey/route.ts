import { idOf, respond } from '../../../respond'

/** Surveys a run and answers what it found; it is kept with the run. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) => respond(async ({ surveys }) => surveys.make(await idOf(params)))
