import { check, renderQuerySchema } from '@/schemas'
import { renderPage } from '@/server'
import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** A part of all renders, the newest first. */
export const GET = (request: Request) =>
  respond(({ db }) => renderPage(db, check<{ from: number }>(renderQuerySchema, Object.fromEntries(new URL(request.url).searchParams)).from))
