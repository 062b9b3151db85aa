import type { Shelf } from '@/core/kit'
import { check, checkKitItem, InputError, shelfSchema } from '@/schemas'
import { bodyOf, respond } from '../../respond'

type Place = { params: Promise<{ shelf: string }> }

const shelfOf = async ({ params }: Place) => check<string>(shelfSchema, (await params).shelf) as Shelf
const nameIn = (request: Request) => new URL(request.url).searchParams.get('name') ?? undefined

/** Puts an item on a shelf; `?name=` is what the item to change was called. */
export const PUT = (request: Request, place: Place) =>
  respond(async ({ kit }) => {
    const shelf = await shelfOf(place)
    await kit.put(shelf, checkKitItem(shelf, await bodyOf(request)), nameIn(request))
    return undefined
  })

export const DELETE = (request: Request, place: Place) =>
  respond(async ({ kit }) => {
    const name = nameIn(request)
    if (!name) throw new InputError('Say which item to remove.')
    await kit.remove(await shelfOf(place), name)
    return undefined
  })
