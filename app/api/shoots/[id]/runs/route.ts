import { idOf, respond } from '../../../respond'

export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => ({ id: await shoots.addRun(await idOf(params), 'imported') }))
