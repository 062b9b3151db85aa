import { mkdir, rename, stat } from 'node:fs/promises'
import path from 'node:path'
import { backupSchema } from '@/schemas'
import type { JobKindWork } from '../kind'

/** Writes everything, or some shoots, into one archive, to be fetched. */
export const backup: JobKindWork<'backup', { shoots?: number[] }> = {
  lane: 'files',
  settings: backupSchema,
  prepare: async ({ environment, settings, scratch }) => ({
    kind: 'backup',
    dataFolder: environment.dataFolder,
    ...settings,
    out: path.join(scratch, 'backup.zip'),
  }),
  finish: async ({ store: { folders }, settings: { shoots }, job, scratch }) => {
    const day = new Date().toISOString().slice(0, 10)
    const name = `nitidus-${shoots ? `shoot-${shoots.join('-').slice(0, 40)}` : 'all'}-${day}-${job.id}.zip`
    await mkdir(folders.backups(), { recursive: true })
    const target = path.join(folders.backups(), name)
    await rename(path.join(scratch, 'backup.zip'), target)
    return { name, bytes: (await stat(target)).size }
  },
}
