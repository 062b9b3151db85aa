import { randomUUID } from 'node:crypto'
import { AS_IT_IS, type Recipe } from '@/core/finish'
import { refusal } from '@/core/words'
import { now, type Database } from '@/database'
import { checkRecipe, type RecipeDetail } from '@/schemas'
import { renderOf } from './renders'

/** Recipes under names, and what each render is being finished by. */
export class Recipes {
  constructor(private readonly db: Database) {}

  /** All that are kept, by name. */
  async all(): Promise<RecipeDetail[]> {
    const rows = await this.db.selectFrom('recipe').selectAll().orderBy('name').execute()
    return rows.map(({ id, name, recipe_json }) => ({ id, name, recipe: checkRecipe(JSON.parse(recipe_json)) }))
  }

  /** Keeps a recipe under a name. @throws Refusal where that is taken. */
  async keep(name: string, recipe: Recipe): Promise<RecipeDetail> {
    const taken = await this.db.selectFrom('recipe').select('id').where('name', '=', name).executeTakeFirst()
    if (taken) throw refusal('recipe.name', { name }, 'name')
    const { id } = await this.db
      .insertInto('recipe')
      .values({ uid: randomUUID(), name, recipe_json: JSON.stringify(recipe), created_at: now() })
      .returning('id')
      .executeTakeFirstOrThrow()
    return { id, name, recipe }
  }

  /** @throws Refusal where there is none. */
  async one(recipeId: number): Promise<RecipeDetail> {
    const row = await this.db.selectFrom('recipe').selectAll().where('id', '=', recipeId).executeTakeFirst()
    if (!row) throw refusal('recipe.gone')
    return { id: row.id, name: row.name, recipe: checkRecipe(JSON.parse(row.recipe_json)) }
  }

  async remove(recipeId: number): Promise<void> {
    await this.one(recipeId)
    await this.db.deleteFrom('recipe').where('id', '=', recipeId).execute()
  }

  /** What a render is being finished by. @throws Refusal where there is no such render. */
  async of(renderId: number): Promise<Recipe> {
    await renderOf(this.db, renderId)
    const row = await this.db.selectFrom('development').select('recipe_json').where('render_id', '=', renderId).executeTakeFirst()
    return row ? checkRecipe(JSON.parse(row.recipe_json)) : AS_IT_IS
  }

  async set(renderId: number, recipe: Recipe): Promise<Recipe> {
    await renderOf(this.db, renderId)
    const values = { recipe_json: JSON.stringify(recipe), changed_at: now() }
    await this.db
      .insertInto('development')
      .values({ render_id: renderId, ...values })
      .onConflict((conflict) => conflict.column('render_id').doUpdateSet(values))
      .execute()
    return recipe
  }
}
