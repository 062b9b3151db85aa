import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { now } from '@/database'
import { check, splitSchema } from '@/schemas'
import { isRaw } from '@/core/batch'
import { gatherCaptures } from '../../pictures'
import { framesOfRun } from '../../shoots/framesToFuse'
import { moveFrames } from '../../shoots/movedFrames'
import type { JobKindWork } from '../kind'

/**
 * Splits a run where its frames belong to several series: the first stays, each other one becomes a new run with the
 * reason. Nothing is moved unless everything can be.
 */
export const split: JobKindWork<'split', object> = {
  lane: 'look',
  settings: Joi.object(),
  prepare: async ({ db, store, job, scratch }) => {
    const frames = await framesOfRun(db, job.run_id!)
    if (frames.length < 2) throw refusal('run.tooFew', { count: frames.length })
    // Frames whose captures are together already are frames like others.
    const single = frames.every(({ captures_bytes }) => captures_bytes === 0)
    const raws = frames.flatMap(({ run_id, name, file }) => (isRaw(name) ? [{ name, file: store.folders.frame(run_id, file) }] : []))
    return {
      kind: 'split',
      frames: await Promise.all(frames.map((frame) => store.smallOf(frame))),
      ...(single && { raws }),
      report: path.join(scratch, 'split.json'),
    }
  },
  finish: async ({ db, store: { folders }, job, scratch }) => {
    const { series, clock } = check(splitSchema, JSON.parse(await readFile(path.join(scratch, 'split.json'), 'utf8')))
    const runId = job.run_id!
    const others = series.slice(1)
    if (others.length === 0 && !series[0].captures) return { series, clock }
    await moveFrames(db, folders, async (transaction, move) => {
      const {
        id: _,
        number: __,
        survey_json: ___,
        ...run
      } = await transaction.selectFrom('run').selectAll().where('id', '=', runId).executeTakeFirstOrThrow()
      const { most } = await transaction
        .selectFrom('run')
        .select((e) => e.fn.max('number').as('most'))
        .where('shoot_id', '=', run.shoot_id)
        .executeTakeFirstOrThrow()
      const frames = new Map((await framesOfRun(transaction, runId)).map((frame) => [frame.name, frame]))
      for (const [k, { files, reason }] of others.entries()) {
        const { id } = await transaction
          .insertInto('run')
          .values({ ...run, uid: randomUUID(), number: Number(most) + k + 1, reason, begun_by: null, created_at: now() })
          .returning('id')
          .executeTakeFirstOrThrow()
        for (const name of files) {
          const frame = frames.get(name)
          if (!frame) throw refusal('frame.gone')
          await move(frame, id)
        }
      }
      for (const { captures } of series) if (captures) await gatherCaptures(transaction, frames, captures)
      await transaction.updateTable('run').set({ survey_json: null }).where('id', '=', runId).execute()
    })
    return { series, clock }
  },
}
