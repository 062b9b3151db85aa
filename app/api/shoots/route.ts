import { check, shootRequestSchema, type ShootRequest } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

export const GET = () => respond(({ shoots }) => shoots.list())

export const POST = (request: Request) =>
  respond(async ({ shoots }) => ({ id: await shoots.create(check<ShootRequest>(shootRequestSchema, await bodyOf(request))) }))
