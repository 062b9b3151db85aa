import type { Kit, KitItem, Shelf } from '@/core/kit'
import { InputError } from '@/schemas'
import type { Database } from '../database'

/** The studio's kit in the database: items on shelves, each known by its name. */
export class KitStore {
  constructor(private readonly db: Database) {}

  async all(): Promise<Kit> {
    const rows = await this.db.selectFrom('kit_item').selectAll().orderBy('id').execute()
    const kit: Kit = { bodies: [], lenses: [], attachments: [], rails: [], lights: [], calibrations: [] }
    for (const { shelf, facts_json } of rows) (kit[shelf] as KitItem[]).push(JSON.parse(facts_json))
    return kit
  }

  /**
   * Adds an item, or changes the one that was called `former`.
   * @throws InputError where its name is taken, or `former` is gone.
   */
  async put(shelf: Shelf, item: KitItem, former?: string): Promise<void> {
    const facts_json = JSON.stringify(item)
    await this.db.transaction().execute(async (transaction) => {
      const taken =
        item.name !== former &&
        (await transaction.selectFrom('kit_item').select('id').where('shelf', '=', shelf).where('name', '=', item.name).executeTakeFirst())
      if (taken) throw new InputError(`The kit has a “${item.name}” already; give this one another name.`, 'name')
      if (former === undefined) {
        await transaction.insertInto('kit_item').values({ shelf, name: item.name, facts_json }).execute()
        return
      }
      const { numUpdatedRows } = await transaction
        .updateTable('kit_item')
        .set({ name: item.name, facts_json })
        .where('shelf', '=', shelf)
        .where('name', '=', former)
        .executeTakeFirst()
      if (Number(numUpdatedRows) === 0) throw new InputError(`The kit has no “${former}” any more; it was removed meanwhile.`)
    })
  }

  async remove(shelf: Shelf, name: string): Promise<void> {
    const { numDeletedRows } = await this.db.deleteFrom('kit_item').where('shelf', '=', shelf).where('name', '=', name).executeTakeFirst()
    if (Number(numDeletedRows) === 0) throw new InputError(`The kit has no “${name}” any more; it was removed meanwhile.`)
  }

  /** Takes in a whole kit: items of the same name are replaced, others stay. Everything or nothing. */
  async take(kit: Kit): Promise<number> {
    const rows = Object.entries(kit).flatMap(([shelf, items]) =>
      items.map((item: KitItem) => ({ shelf: shelf as Shelf, name: item.name, facts_json: JSON.stringify(item) })),
    )
    await this.db.transaction().execute(async (transaction) => {
      for (const row of rows) {
        await transaction
          .insertInto('kit_item')
          .values(row)
          .onConflict((conflict) => conflict.columns(['shelf', 'name']).doUpdateSet({ facts_json: row.facts_json }))
          .execute()
      }
    })
    return rows.length
  }
}
