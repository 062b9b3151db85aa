import { refusal } from '@/core/words'
import { respond, sendFile } from '../../respond'

/** One tile of a zoom pyramid: `frame-3/12/4_2.jpeg`. */
export const GET = (_: Request, { params }: { params: Promise<{ path: string[] }> }) =>
  respond(async ({ store }) => {
    const [picture, level, tile, ...rest] = (await params).path
    const known = /^(frame|render)-[1-9]\d*$/.test(picture) && /^\d+$/.test(level ?? '') && /^\d+_\d+\.jpe?g$/.test(tile ?? '') && rest.length === 0
    if (!known) throw refusal('request.address')
    return sendFile(store.folders.derived('zoom', picture, 'picture_files', level, tile), 'image/jpeg')
  })
