import { idOf, respond } from '../../../respond'

/** Takes a run apart into its series. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) => respond(async ({ splits }) => splits.split(await idOf(params)))
