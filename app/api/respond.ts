import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import { create as contentDisposition } from 'content-disposition'
import type { UnitSystem } from '@/core/units'
import { isRefusal, refusal, say, type Sentence } from '@/core/words'
import { explained } from '@/database'
import { check, idSchema } from '@/schemas'
import { context, type Context } from '@/server'
import { refusedRequest } from '@/server/guard'
import { statusOf } from './status'

/** A route's work; what it throws becomes one sentence for the user. */
export async function respond(work: (context: Context) => Promise<Response | object | undefined>): Promise<Response> {
  try {
    const result = await work(await context())
    return result instanceof Response ? result : Response.json(result ?? { ok: true })
  } catch (error) {
    const known = explained(error)
    if (isRefusal(known)) return refused({ code: known.code, text: known.message }, known.field)
    console.error(error)
    return refused(say('server.inside'))
  }
}

function refused({ code, text }: Sentence, field?: string): Response {
  return Response.json({ error: text, code, field }, { status: statusOf(code) })
}

/** A route that takes an upload, which does not pass the proxy: asked by the guard here. */
export function guarded(request: Request, work: (context: Context) => Promise<Response | object | undefined>): Promise<Response> | Response {
  const { method, headers, url } = request
  const said = refusedRequest({ method, path: new URL(url).pathname, header: (name) => headers.get(name) })
  return said ? refused(said) : respond(work)
}

/** The number in a route's path. @throws Refusal where it is spelt otherwise. */
export async function idOf(params: Promise<{ id: string }>): Promise<number> {
  try {
    return Number(check<string>(idSchema, (await params).id))
  } catch {
    throw refusal('request.address')
  }
}

/** Most of what a form sends; logs and kits are longer and say so. */
const USUAL_kB = 64

/** The JSON body of a request. @throws Refusal where it is none, is not said to be, or is too long. */
export async function bodyOf(request: Request, most_kB = USUAL_kB): Promise<unknown> {
  const type = request.headers.get('content-type')?.split(';')[0].trim().toLowerCase()
  if (type !== 'application/json') throw refusal('request.jsonType')
  const tooLarge = () => refusal('request.tooLarge', { most_kB })
  if (Number(request.headers.get('content-length') ?? 0) > most_kB * 1000) throw tooLarge()
  const parts: Buffer[] = []
  let length = 0
  // Counted as it comes: what is said of the length may be wrong or missing.
  if (request.body)
    for await (const part of Readable.fromWeb(request.body as WebStream)) {
      length += (part as Buffer).length
      if (length > most_kB * 1000) throw tooLarge()
      parts.push(Buffer.from(part as Uint8Array))
    }
  try {
    return JSON.parse(Buffer.concat(parts).toString('utf8'))
  } catch {
    throw refusal('request.noJson')
  }
}

interface FileOptions {
  /** Offered to be kept under this name, not shown. */
  name?: string
  /** What is said where the file is gone. */
  gone?: Sentence
}

/** Pictures stay the same under their address; a browser asks again after an hour, as numbers may be given anew after a restore. */
const KEPT_s = 3600

/** Sends a file. @throws Refusal where it is gone. */
export async function sendFile(file: string, type: string, { name, gone = say('request.address') }: FileOptions = {}): Promise<Response> {
  const found = await stat(file).catch(() => undefined)
  if (!found?.isFile()) return refused(gone)
  return new Response(Readable.toWeb(createReadStream(file)) as ReadableStream, {
    headers: {
      'content-type': type,
      'content-length': String(found.size),
      'cache-control': name ? 'private, no-cache' : `private, max-age=${KEPT_s}`,
      ...(name && { 'content-disposition': contentDisposition(name) }),
    },
  })
}

/** Sends a PDF under a name to be kept by. */
export function sendPdf(pdf: Buffer, name: string): Response {
  return new Response(new Uint8Array(pdf), { headers: { 'content-type': 'application/pdf', 'content-disposition': contentDisposition(name) } })
}

/** A page to keep: the browser stores it and never shows it as one of the application's own. */
export function sendPage(html: string, name: string): Response {
  return new Response(html, { headers: { 'content-type': 'text/html; charset=utf-8', 'content-disposition': contentDisposition(name) } })
}

/** The units that a paper is asked for in: `?units=inches`. */
export const unitsOf = (request: Request): UnitSystem => (new URL(request.url).searchParams.get('units') === 'inches' ? 'inches' : 'metric')
