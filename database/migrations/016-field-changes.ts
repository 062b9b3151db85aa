import { sql, type Kysely } from 'kysely'

/**
 * A field log changes its shoot when it arrives, by this machine's clock. Until now the time of the newest entry counted, by the phone's clock;
 * one that runs ahead kept its shoot first in the list. What was logged before is taken over, but nothing from the future.
 */
export async function up(db: Kysely<{ shoot: { id: number; changed_at: string } }>): Promise<void> {
  await db
    .updateTable('shoot')
    .set({
      changed_at: sql`max(changed_at, coalesce(
        (select max(at) from field_entry where shoot_id = shoot.id and at <= strftime('%Y-%m-%dT%H:%M:%fZ', 'now')), ''))`,
    })
    .execute()
}
