import { checkRecipe } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

type Place = { params: Promise<{ id: string }> }

/** What a render is being finished by. */
export const GET = (_: Request, { params }: Place) => respond(async ({ recipes }) => recipes.of(await idOf(params)))

/** Keeps what it is finished by from now on. */
export const PUT = (request: Request, { params }: Place) =>
  respond(async ({ recipes }) => recipes.set(await idOf(params), checkRecipe(await bodyOf(request, 4000))))
