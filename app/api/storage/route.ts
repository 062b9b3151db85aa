import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** What takes the room of the data folder. */
export const GET = () => respond(({ storage }) => storage.detail())
