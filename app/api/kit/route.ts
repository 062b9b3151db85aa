import { checkKit } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

const MOST_kB = 2000

/** The whole kit, each item with its number. */
export const GET = () => respond(({ kit }) => kit.records())

/** Takes in an exported kit: items of the same name are replaced, others stay. */
export const POST = (request: Request) => respond(async ({ kit }) => ({ taken: await kit.take(checkKit(await bodyOf(request, MOST_kB))) }))
