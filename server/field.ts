import type { FieldEntry } from '@/core/field'
import { now, type Database } from '@/database'
import { storedFieldEvent } from '@/schemas'

/** The field logs of shoots. They only grow; what a phone sends twice is kept once. */
export class FieldLogs {
  constructor(private readonly db: Database) {}

  async of(shootId: number): Promise<FieldEntry[]> {
    const rows = await this.db.selectFrom('field_entry').selectAll().where('shoot_id', '=', shootId).orderBy('at').orderBy('id').execute()
    return rows.map(({ id, at, event_json }) => ({ id, at, ...storedFieldEvent(event_json) }))
  }

  async add(shootId: number, entries: FieldEntry[]): Promise<void> {
    if (entries.length === 0) return
    await this.db.transaction().execute(async (transaction) => {
      for (const { id, at, ...event } of entries) {
        await transaction
          .insertInto('field_entry')
          .values({ id, at, shoot_id: shootId, event_json: JSON.stringify(event) })
          .onConflict((conflict) => conflict.column('id').doNothing())
          .execute()
      }
      // Entries carry the phone's time, which may be wrong; the shoot changes now.
      await transaction.updateTable('shoot').set({ changed_at: now() }).where('id', '=', shootId).execute()
    })
  }
}
