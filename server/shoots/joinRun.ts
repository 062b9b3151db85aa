import { refusal } from '@/core/words'
import { now, type Database, type Folders, type Run } from '@/database'
import { framesOfRun } from './framesToFuse'
import { moveFrames } from './movedFrames'

/**
 * Moves the frames of a run back into the one before it in its shoot, after a wrong split; the empty run goes into the bin.
 * Returns the id of the run that has them.
 * @throws Refusal where there is none before it, pictures were made of either, something works on them, or two frames have one name.
 */
export async function joinRun(db: Database, folders: Folders, run: Run): Promise<number> {
  return moveFrames(db, folders, async (writing, move) => {
    const before = await writing
      .selectFrom('run')
      .select(['id', 'number'])
      .where('shoot_id', '=', run.shoot_id)
      .where('number', '<', run.number)
      .where('binned_at', 'is', null)
      .orderBy('number', 'desc')
      .executeTakeFirst()
    if (!before) throw refusal('run.nothingBefore')
    const both = [run.id, before.id]
    if (await writing.selectFrom('render').select('id').where('run_id', 'in', both).executeTakeFirst()) throw refusal('run.joinRenders')
    const working = writing.selectFrom('job').select('id').where('run_id', 'in', both).where('state', 'in', ['queued', 'running'])
    if (await working.executeTakeFirst()) throw refusal('run.busy')
    const names = new Set((await framesOfRun(writing, before.id)).map(({ name }) => name))
    for (const frame of await framesOfRun(writing, run.id)) {
      if (names.has(frame.name)) throw refusal('frame.nameTaken', { name: frame.name })
      await move(frame, before.id)
    }
    await writing.updateTable('run').set({ survey_json: null }).where('id', '=', before.id).execute()
    await writing.updateTable('run').set({ binned_at: now() }).where('id', '=', run.id).execute()
    return before.id
  })
}
