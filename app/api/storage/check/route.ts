import { respond } from '../../respond'

/** Queues a check of every original against its checksum. */
export const POST = () => respond(async ({ jobs }) => ({ id: (await jobs.add('check', {}, {})).id }))
