import { check, shootRequestSchema, type ShootRequest } from '@/schemas'
import { bodyOf, respond } from '../respond'

export const dynamic = 'force-dynamic'

export const GET = () => respond(({ shoots }) => shoots.list())

export const POST = (request: Request) =>
  respond(async ({ shoots }) => {
    const { title, subject, scene, plan } = check<ShootRequest>(shootRequestSchema, await bodyOf(request))
    return { id: await shoots.create(title, subject, scene, plan) }
  })
