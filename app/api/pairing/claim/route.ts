import { check, claimSchema } from '@/schemas'
import { bodyOf, respond } from '../../respond'

/** Pairs a device by its code; asked by the gate for it. Answers the token. */
export const POST = (request: Request) =>
  respond(async ({ pairing }) => {
    const { code, name, token } = check<{ code: string; name: string; token?: string }>(claimSchema, await bodyOf(request))
    return { token: await pairing.claim(code, name, token) }
  })
