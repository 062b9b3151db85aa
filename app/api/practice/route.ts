import { check, practiceTrySchema } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

/** Every try at an exercise, the oldest first. */
export const GET = () => respond(({ practice }) => practice.all())

/** Keeps a try: `{ exercise, level, seed, percent, took_s }`. */
export const POST = (request: Request) => respond(async ({ practice }) => practice.keep(check(practiceTrySchema, await bodyOf(request))))
