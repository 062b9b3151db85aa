import { respond } from '../../respond'

/** Lets a paired device in no longer. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ pairing }) => {
    await pairing.revoke((await params).id)
    return undefined
  })
