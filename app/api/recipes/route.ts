import { check, checkRecipe, newRecipeSchema } from '@/schemas'
import { bodyOf, respond } from '../respond'

/** A recipe by hand may have long strokes. */
const MOST_kB = 4000

/** Every recipe that is kept. */
export const GET = () => respond(({ recipes }) => recipes.all())

/** Keeps a recipe under a name: `{ name, recipe }`. */
export const POST = (request: Request) =>
  respond(async ({ recipes }) => {
    const { name, recipe } = check<{ name: string; recipe: unknown }>(newRecipeSchema, await bodyOf(request, MOST_kB))
    return recipes.keep(name, checkRecipe(recipe))
  })
