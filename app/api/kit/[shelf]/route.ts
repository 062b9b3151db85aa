import type { Shelf } from '@/core/kit'
import { refusal } from '@/core/words'
import { check, checkKitItem, idSchema, shelfSchema } from '@/schemas'
import { bodyOf, respond } from '../../respond'

type Place = { params: Promise<{ shelf: string }> }

const shelfOf = async ({ params }: Place) => check<string>(shelfSchema, (await params).shelf) as Shelf

/** The number of the item that is meant, from `?id=`; undefined without one. */
function idIn(request: Request): number | undefined {
  const id = new URL(request.url).searchParams.get('id')
  return id === null ? undefined : Number(check<string>(idSchema, id))
}

/** Puts an item on a shelf; `?id=` is the item to change. */
export const PUT = (request: Request, place: Place) =>
  respond(async ({ kit }) => {
    const shelf = await shelfOf(place)
    await kit.put(shelf, checkKitItem(shelf, await bodyOf(request)), idIn(request))
    return undefined
  })

export const DELETE = (request: Request, place: Place) =>
  respond(async ({ kit }) => {
    const id = idIn(request)
    if (id === undefined) throw refusal('kit.which')
    await kit.remove(await shelfOf(place), id)
    return undefined
  })
