import { readFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import type { MeasuredTarget } from '@/core/learn/target'
import { targetFactsSchema, type TargetFile } from '@/schemas'
import { framesToFuse } from '../../shoots'
import type { JobKindWork } from '../kind'

interface Settings {
  facts: TargetFile
}

/** Measures focus from the frames of a run that show the printed sheet; what it found is the answer, and is kept by whoever asked. */
export const measure: JobKindWork<'measure', Settings> = {
  lane: 'look',
  settings: Joi.object<Settings>({ facts: targetFactsSchema.required() }),
  prepare: async ({ db, store, job, settings, scratch }) => ({
    kind: 'measure',
    frames: await Promise.all((await framesToFuse(db, job.run_id!)).map((frame) => store.fileOf(frame))),
    facts: settings.facts,
    report: path.join(scratch, 'measured.json'),
  }),
  finish: async ({ scratch }) => JSON.parse(await readFile(path.join(scratch, 'measured.json'), 'utf8')) as MeasuredTarget,
}
