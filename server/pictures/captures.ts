import type { CaptureSets } from '@/core/develop'
import { refusal } from '@/core/words'
import type { Capture, Database, Frame, Tables } from '@/database'
import type { Transaction } from 'kysely'

type Writing = Transaction<Tables>

/** The captures of a frame beside its first, in the order in which they were taken. */
export function capturesOf(db: Database | Writing, frameId: number): Promise<Capture[]> {
  return db.selectFrom('capture').selectAll().where('frame_id', '=', frameId).orderBy('id').execute()
}

/** The captures of all frames of a run. */
export function capturesOfRun(db: Database | Writing, runId: number): Promise<Capture[]> {
  return db
    .selectFrom('capture')
    .innerJoin('frame', 'frame.id', 'capture.frame_id')
    .selectAll('capture')
    .where('frame.run_id', '=', runId)
    .orderBy('capture.id')
    .execute()
}

/** How many captures the frames of a run have, by their numbers; those of one are left out. */
export async function captureCounts(db: Database, runId: number): Promise<Map<number, number>> {
  const rows = await db
    .selectFrom('capture')
    .innerJoin('frame', 'frame.id', 'capture.frame_id')
    .select(['frame.id', (e) => e.fn.countAll<number>().as('count')])
    .where('frame.run_id', '=', runId)
    .groupBy('frame.id')
    .execute()
  return new Map(rows.map(({ id, count }) => [id, 1 + Number(count)]))
}

/** Makes one frame of each set of captures: the first stands for it, and it is as large as they make it together. */
export async function gatherCaptures(db: Writing, frames: Map<string, Frame>, { sets, places, finer }: Omit<CaptureSets, 'before'>): Promise<void> {
  for (const names of sets) {
    const [first, ...others] = names.map((name) => frames.get(name))
    if (!first || others.some((other) => !other)) throw refusal('frame.gone')
    let bytes = 0
    for (const [k, other] of others.entries()) {
      const { id, uid, name, file, sha256, exif_json, created_at } = other!
      const [x_px, y_px] = places[k + 1]
      await db.deleteFrom('frame').where('id', '=', id).execute()
      await db
        .insertInto('capture')
        .values({ uid, frame_id: first.id, name, file, sha256, bytes: other!.bytes, x_px, y_px, exif_json, created_at })
        .execute()
      bytes += other!.bytes
    }
    await db
      .updateTable('frame')
      .set({ width: finer * first.width, height: finer * first.height, captures_bytes: bytes })
      .where('id', '=', first.id)
      .execute()
  }
}

/**
 * Makes every capture of a run a frame of its own again.
 * @throws Refusal where pictures were made of the run as it is.
 */
export async function takeCapturesApart(db: Database, runId: number): Promise<void> {
  const render = await db.selectFrom('render').select('id').where('run_id', '=', runId).executeTakeFirst()
  if (render) throw refusal('captures.rendersExist')
  await db.transaction().execute(async (writing) => {
    const captures = await capturesOfRun(writing, runId)
    for (const frameId of new Set(captures.map(({ frame_id }) => frame_id))) {
      const { id, uid: _, ...like } = await writing.selectFrom('frame').selectAll().where('id', '=', frameId).executeTakeFirstOrThrow()
      const own = captures.filter(({ frame_id }) => frame_id === id)
      // Half pixels are what makes a frame larger than each of its captures.
      const finer = own.some(({ x_px, y_px }) => !Number.isInteger(x_px) || !Number.isInteger(y_px)) ? 2 : 1
      const alone = { width: like.width / finer, height: like.height / finer, captures_bytes: 0 }
      await writing.updateTable('frame').set(alone).where('id', '=', id).execute()
      await writing.deleteFrom('capture').where('frame_id', '=', id).execute()
      for (const { uid, name, file, sha256, bytes, exif_json, created_at } of own)
        await writing
          .insertInto('frame')
          .values({ ...like, ...alone, uid, name, file, sha256, bytes, exif_json, created_at })
          .execute()
    }
    await writing.updateTable('run').set({ survey_json: null }).where('id', '=', runId).execute()
  })
}
