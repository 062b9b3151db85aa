import { checkKit } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

/** The whole kit, as it is exported. */
export const GET = () => respond(({ kit }) => kit.all())

/** Takes in an exported kit: items of the same name are replaced, others stay. */
export const POST = (request: Request) => respond(async ({ kit }) => ({ taken: await kit.take(checkKit(await bodyOf(request))) }))
