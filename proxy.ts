import { randomBytes } from 'node:crypto'
import { NextResponse, type NextRequest } from 'next/server'
import { refusedRequest, securityHeaders } from '@/server/guard'

/** Stands before every route and page: turns away what comes from elsewhere and adds the headers that keep the door shut. */
export function proxy(request: NextRequest): NextResponse {
  const refused = refusedRequest({ method: request.method, path: request.nextUrl.pathname, header: (name) => request.headers.get(name) })
  if (refused) return NextResponse.json({ error: refused.text, code: refused.code }, { status: 403 })
  const headers = securityHeaders(randomBytes(16).toString('base64'))
  // The framework takes the nonce for its own scripts from the request.
  const inside = new Headers(request.headers)
  inside.set('content-security-policy', headers['content-security-policy'])
  const response = NextResponse.next({ request: { headers: inside } })
  for (const [name, value] of Object.entries(headers)) response.headers.set(name, value)
  return response
}

/** Uploads pass by: here a body would be held in memory, and cut at 10 MB. Their routes ask the same guard themselves (`guarded`). */
export const config = { matcher: ['/((?!_next/static/|api/runs/[0-9]+/frames|api/storage/restore).*)'] }
