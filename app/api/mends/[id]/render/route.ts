import { idOf, respond } from '../../../respond'

/** Has the edits of a mend carried out; answers the job, whose result is a render of its own. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => ({ id: (await work.mend(await idOf(params))).id }))
