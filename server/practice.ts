import { randomUUID } from 'node:crypto'
import type { ExerciseName, Level } from '@/core/practice'
import { now, type Database } from '@/database'
import type { KeptTry, PracticeTry } from '@/schemas'

/** The record of what was practised. */
export class Practice {
  constructor(private readonly db: Database) {}

  /** Every try, the oldest first. */
  async all(): Promise<KeptTry[]> {
    const rows = await this.db
      .selectFrom('practice_try')
      .select(['exercise', 'level', 'seed', 'percent', 'took_s', 'created_at'])
      .orderBy('created_at')
      .orderBy('id')
      .execute()
    return rows.map(({ exercise, level, ...rest }) => ({ ...rest, exercise: exercise as ExerciseName, level: level as Level }))
  }

  async keep(tried: PracticeTry): Promise<KeptTry> {
    const created_at = now()
    await this.db
      .insertInto('practice_try')
      .values({ ...tried, uid: randomUUID(), created_at })
      .execute()
    return { ...tried, created_at }
  }
}
