import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { check, idSchema, InputError, isForUser } from '@/schemas'
import { context, type Context } from '@/server'

/** A route's work; what it throws becomes one sentence for the user. */
export async function respond(work: (context: Context) => Promise<Response | object | undefined>): Promise<Response> {
  try {
    const result = await work(await context())
    return result instanceof Response ? result : Response.json(result ?? { ok: true })
  } catch (error) {
    if (isForUser(error)) return Response.json({ error: error.message, field: error.field }, { status: 400 })
    console.error(error)
    return Response.json({ error: 'Something went wrong on our side; the details are in the server’s log.' }, { status: 500 })
  }
}

export async function idOf(params: Promise<{ id: string }>): Promise<number> {
  return check<number>(idSchema, (await params).id)
}

/** The JSON body of a request. @throws InputError where it is none. */
export async function bodyOf(request: Request): Promise<unknown> {
  return request.json().catch(() => {
    throw new InputError('The request holds no JSON.')
  })
}

/** Sends a file that never changes under its address. */
export async function sendFile(file: string, type: string): Promise<Response> {
  const { size } = await stat(file).catch(() => {
    throw new InputError('This picture does not exist any more.')
  })
  return new Response(Readable.toWeb(createReadStream(file)) as ReadableStream, {
    headers: { 'content-type': type, 'content-length': String(size), 'cache-control': 'private, max-age=86400' },
  })
}
