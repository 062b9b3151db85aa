import { access } from 'node:fs/promises'
import path from 'node:path'
import { refusal } from '@/core/words'
import { check, proofSchema, type ProofOf } from '@/schemas'
import { proofMap, proofPicture, renderOf } from '@/server'
import { idOf, respond } from '../../../respond'

const FILES: Record<ProofOf, string> = { picture: 'result.tif', depth: 'depth.png', confidence: 'confidence.png' }

/** A render, or a map `of` it, at most `width` px wide, as bare samples of 16 bits to compute with; headers say how many. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, store: { folders } }) => {
    const render = await renderOf(db, await idOf(params))
    const { of, width } = check<{ of: ProofOf; width: number }>(proofSchema, Object.fromEntries(new URL(request.url).searchParams))
    const file = path.join(/* turbopackIgnore: true */ folders.render(render.folder), FILES[of])
    await access(file).catch(() => {
      throw refusal('render.notKept')
    })
    const proof = of === 'picture' ? await proofPicture(file, width, folders.incoming()) : await proofMap(file, width)
    const headers = { 'content-type': 'application/octet-stream', 'x-width': `${proof.width}`, 'x-height': `${proof.height}` }
    return new Response(new Uint8Array(proof.samples), { headers })
  })
