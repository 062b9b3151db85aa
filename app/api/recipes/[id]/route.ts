import { idOf, respond } from '../../respond'

/** Takes a recipe away; pictures that were finished by it stay. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ recipes }) => {
    await recipes.remove(await idOf(params))
    return undefined
  })
