import { check, shootQuerySchema, shootRequestSchema, type ShootQuery, type ShootRequest } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

/** A part of the shoots that are asked for. */
export const GET = (request: Request) =>
  respond(({ shoots }) => shoots.list(check<ShootQuery>(shootQuerySchema, Object.fromEntries(new URL(request.url).searchParams))))

export const POST = (request: Request) =>
  respond(async ({ shoots }) => ({ id: await shoots.create(check<ShootRequest>(shootRequestSchema, await bodyOf(request))) }))
