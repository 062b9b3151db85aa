import { check, renderQuerySchema, type RenderQuery } from '@/schemas'
import { renderPage } from '@/server'
import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** A part of all renders, the newest first. */
export const GET = (request: Request) =>
  respond(({ db }) => renderPage(db, check<RenderQuery>(renderQuerySchema, Object.fromEntries(new URL(request.url).searchParams))))
