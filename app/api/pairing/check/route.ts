import { check, tokenSchema } from '@/schemas'
import { bodyOf, respond } from '../../respond'

/** The device that a token belongs to, or null; asked by the gate for every device that comes. */
export const POST = (request: Request) =>
  respond(async ({ pairing }) => {
    const { token } = check<{ token: string }>(tokenSchema, await bodyOf(request))
    return { device: (await pairing.deviceOf(token)) ?? null }
  })
