import { logCsv } from '@/core/logbook'
import { check, logQuerySchema, type LogQuery } from '@/schemas'
import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** A part of the logbook; with `as=csv` or `as=json` all of it, to take away. */
export const GET = (request: Request) =>
  respond(async ({ logbook }) => {
    const { as, ...asked } = Object.fromEntries(new URL(request.url).searchParams)
    if (as !== 'csv' && as !== 'json') return logbook.page(check<LogQuery>(logQuerySchema, asked))
    const entries = await logbook.all()
    return as === 'csv'
      ? textToKeep(logCsv(entries), 'text/csv; charset=utf-8', 'logbook.csv')
      : textToKeep(JSON.stringify(entries, null, 2), 'application/json', 'logbook.json')
  })

function textToKeep(text: string, type: string, name: string): Response {
  return new Response(text, { headers: { 'content-type': type, 'content-disposition': `attachment; filename=${name}` } })
}
