import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { refusal } from '@/core/words'
import { colouredDepth } from '@/server'
import { idOf, respond } from '../../../../respond'

/** What a render has come to while it runs: the `picture`, or its `depth` in the colours of the ribbon. */
export const GET = (_: Request, { params }: { params: Promise<{ id: string; what: string }> }) =>
  respond(async ({ store }) => {
    const folder = store.folders.soFar(await idOf(params))
    const { what } = await params
    if (what !== 'picture' && what !== 'depth') throw refusal('request.address')
    const made = what === 'picture' ? readFile(path.join(folder, 'picture.jpg')) : colouredDepth(path.join(folder, 'depth.png'))
    const contents = await made.catch(() => {
      throw refusal('job.nothingYet')
    })
    const type = what === 'picture' ? 'image/jpeg' : 'image/png'
    return new Response(new Uint8Array(contents), { headers: { 'content-type': type, 'cache-control': 'no-store' } })
  })
