import { readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import type { JobResults } from '@/schemas'
import type { JobKindWork } from '../kind'

interface Settings {
  /** File in the folder of what comes in. */
  archive: string
}

/** Adds what an archive holds and this data folder lacks. */
export const restore: JobKindWork<'restore', Settings> = {
  lane: 'files',
  settings: Joi.object<Settings>({
    archive: Joi.string()
      .pattern(/^[\w-]+\.zip$/)
      .required(),
  }),
  prepare: async ({ environment, store: { folders }, settings: { archive }, scratch }) => ({
    kind: 'restore',
    dataFolder: environment.dataFolder,
    archive: path.join(folders.incoming(), archive),
    report: path.join(scratch, 'restored.json'),
  }),
  finish: async ({ scratch }) => {
    return JSON.parse(await readFile(path.join(scratch, 'restored.json'), 'utf8')) as JobResults['restore']
  },
  ended: async ({ store: { folders }, settings: { archive } }) => rm(path.join(folders.incoming(), archive), { force: true }),
}
