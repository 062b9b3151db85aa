import type { Rectangle } from '@/core/raster'
import { areaSchema, check } from '@/schemas'
import { frameArea, frameAreaSamples } from '@/server'

/** Sends the part of a picture that a request names without loss: as PNG, or as bare `samples` to compute with. */
export async function sendArea(picture: string, request: Request, scratch: string): Promise<Response> {
  const { as, ...area } = areaOf(request)
  if (as !== 'samples') return new Response(new Uint8Array(await frameArea(picture, area, scratch)), { headers: { 'content-type': 'image/png' } })
  const { samples, bits } = await frameAreaSamples(picture, area, scratch)
  return sendSamples(samples, bits)
}

/** The area that a request names. @throws Refusal */
export function areaOf(request: Request): Rectangle & { as?: 'samples' } {
  return check<Rectangle & { as?: 'samples' }>(areaSchema, Object.fromEntries(new URL(request.url).searchParams))
}

/** Sends bare samples; a header says of how many bits they are. */
export function sendSamples(samples: Buffer, bits: 8 | 16): Response {
  return new Response(new Uint8Array(samples), { headers: { 'content-type': 'application/octet-stream', 'x-sample-bits': `${bits}` } })
}
