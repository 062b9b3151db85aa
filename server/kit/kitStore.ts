import { randomUUID } from 'node:crypto'
import type { Transaction } from 'kysely'
import type { Calibration, Kit, KitItem, Shelf } from '@/core/kit'
import type { PlanSheet } from '@/core/sheet'
import { refusal } from '@/core/words'
import type { Database, Tables } from '@/database'
import { checkKitItem, storedSheet } from '@/schemas'

/** The studio's kit in the database: items on shelves, each with a number and a name of its own. */
export class KitStore {
  constructor(private readonly db: Database) {}

  /** The kit as plans use it and as it is exported. */
  async all(): Promise<Kit> {
    return shelved(await this.rows(), ({ shelf, facts_json }) => checkKitItem(shelf, JSON.parse(facts_json)))
  }

  /** The same with the items' numbers, by which they are changed and removed. */
  async records(): Promise<Kit> {
    return shelved(await this.rows(), ({ id, shelf, facts_json }) => ({ id, ...checkKitItem(shelf, JSON.parse(facts_json)) }))
  }

  /**
   * Adds an item, or changes the one of a number. A new name is taken over by the plans and calibrations that name the item; runs
   * keep the kit that they were shot with.
   * @throws Refusal where its name is taken, or there is no such item.
   */
  async put(shelf: Shelf, item: KitItem, id?: number): Promise<void> {
    const facts_json = JSON.stringify(item)
    await this.db.transaction().execute(async (transaction) => {
      const named = await transaction.selectFrom('kit_item').select('id').where('shelf', '=', shelf).where('name', '=', item.name).executeTakeFirst()
      if (named && named.id !== id) throw refusal('kit.nameTaken', { name: item.name }, 'name')
      if (id === undefined) {
        await transaction.insertInto('kit_item').values({ uid: randomUUID(), shelf, name: item.name, facts_json }).execute()
        return
      }
      const before = await transaction.selectFrom('kit_item').select('name').where('shelf', '=', shelf).where('id', '=', id).executeTakeFirst()
      if (!before) throw refusal('kit.gone', { name: item.name })
      await transaction.updateTable('kit_item').set({ name: item.name, facts_json }).where('id', '=', id).execute()
      if (before.name !== item.name) await rename(transaction, shelf, before.name, item.name)
    })
  }

  /** @throws Refusal where there is no such item. */
  async remove(shelf: Shelf, id: number): Promise<void> {
    const { numDeletedRows } = await this.db.deleteFrom('kit_item').where('shelf', '=', shelf).where('id', '=', id).executeTakeFirst()
    if (Number(numDeletedRows) === 0) throw refusal('kit.gone', { name: 'This item' })
  }

  /** Takes in a whole kit: items of the same name are replaced, others stay. Everything or nothing. */
  async take(kit: Kit): Promise<number> {
    const rows = Object.entries(kit).flatMap(([shelf, items]) =>
      items.map(({ id: _, ...item }: KitItem) => ({ shelf: shelf as Shelf, name: item.name, facts_json: JSON.stringify(item) })),
    )
    await this.db.transaction().execute(async (transaction) => {
      for (const row of rows) {
        await transaction
          .insertInto('kit_item')
          .values({ uid: randomUUID(), ...row })
          .onConflict((conflict) => conflict.columns(['shelf', 'name']).doUpdateSet({ facts_json: row.facts_json }))
          .execute()
      }
    })
    return rows.length
  }

  private rows() {
    return this.db.selectFrom('kit_item').select(['id', 'shelf', 'facts_json']).orderBy('id').execute()
  }
}

function shelved<Row extends { shelf: Shelf }>(rows: Row[], itemOf: (row: Row) => KitItem): Kit {
  const kit: Kit = { bodies: [], lenses: [], attachments: [], rails: [], lights: [], calibrations: [] }
  for (const row of rows) (kit[row.shelf] as KitItem[]).push(itemOf(row))
  return kit
}

/** Where a sheet names an item of each shelf. */
const NAMED_IN: Partial<Record<Shelf, keyof PlanSheet>> = { bodies: 'body', lenses: 'lens', lights: 'light', rails: 'rail' }
const CALIBRATED: Partial<Record<Shelf, 'body' | 'lens' | 'rail'>> = { bodies: 'body', lenses: 'lens', rails: 'rail' }

async function rename(db: Transaction<Tables>, shelf: Shelf, from: string, to: string): Promise<void> {
  const key = NAMED_IN[shelf]
  if (key) {
    for (const { id, sheet_json } of await db.selectFrom('shoot').select(['id', 'sheet_json']).where('sheet_json', 'is not', null).execute()) {
      const sheet = storedSheet(sheet_json!)
      if (sheet[key] !== from) continue
      await db
        .updateTable('shoot')
        .set({ sheet_json: JSON.stringify({ ...sheet, [key]: to }) })
        .where('id', '=', id)
        .execute()
    }
  }
  const fact = CALIBRATED[shelf]
  if (!fact) return
  for (const { id, facts_json } of await db.selectFrom('kit_item').select(['id', 'facts_json']).where('shelf', '=', 'calibrations').execute()) {
    const calibration = JSON.parse(facts_json) as Calibration
    if (calibration[fact] !== from) continue
    await db
      .updateTable('kit_item')
      .set({ facts_json: JSON.stringify({ ...calibration, [fact]: to }) })
      .where('id', '=', id)
      .execute()
  }
}
