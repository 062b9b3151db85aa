import { readFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import type { CheckReport } from '@/schemas'
import type { JobKindWork } from '../kind'

/** Reads every original and compares it with the checksum it came with. */
export const check: JobKindWork<'check', object> = {
  lane: 'files',
  settings: Joi.object(),
  prepare: async ({ db, store: { folders }, scratch }) => {
    const frames = await db.selectFrom('frame').select(['id', 'run_id', 'file', 'sha256']).orderBy('id').execute()
    // A frame is whole where all its captures are.
    const captures = await db
      .selectFrom('capture')
      .innerJoin('frame', 'frame.id', 'capture.frame_id')
      .select(['frame.id', 'frame.run_id', 'capture.file', 'capture.sha256'])
      .orderBy('capture.id')
      .execute()
    const files = [...frames, ...captures].map(({ id, run_id, file, sha256 }) => ({ id, file: folders.frame(run_id, file), sha256 }))
    return { kind: 'check', files, report: path.join(scratch, 'check.json') }
  },
  finish: async ({ scratch }) => JSON.parse(await readFile(path.join(scratch, 'check.json'), 'utf8')) as CheckReport,
}
