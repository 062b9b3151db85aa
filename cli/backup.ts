import type { Command } from 'commander'
import { restoreBackup, writeBackup, type RestoreReport } from '@/archive'
import { writeWhole } from '@/codec'
import { lockData } from '@/database'
import type { BackupJob, RestoreJob } from '@/schemas'
import { progressTo, type Progress } from './progress'

const dataFolder = () => process.env.NITIDUS_DATA ?? 'data'

/** `nitidus backup --out all.zip`: the data folder as one archive; it may be in use. */
export function addBackup(program: Command): void {
  program
    .command('backup')
    .description('write database, originals and renders into one archive, with checksums')
    .requiredOption('--out <file>', 'the archive: .zip')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async ({ out, progress }: { out: string; progress?: boolean }) =>
      runBackup({ kind: 'backup', dataFolder: dataFolder(), out }, progressTo(progress)),
    )
}

/** `nitidus restore all.zip`: an archive into an empty data folder, or what another one lacks. */
export function addRestore(program: Command): void {
  program
    .command('restore')
    .description('read an archive into the data folder: everything, or what is missing there')
    .argument('<archive>', 'file that backup wrote')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (archive: string, { progress }: { progress?: boolean }) => {
      const folder = dataFolder()
      const lock = lockData(folder)
      try {
        console.log(JSON.stringify(await runRestore({ kind: 'restore', dataFolder: folder, archive }, progressTo(progress)), null, 2))
      } finally {
        lock.release()
      }
    })
}

/** The job of kind `backup`. */
export async function runBackup({ kind: _, ...request }: BackupJob, progress: Progress): Promise<void> {
  const { files, missing } = await writeBackup(request, (frame, of) => progress({ stage: 'backup', frame, of }))
  const count = Object.keys(files).length
  progress({ stage: 'done', frame: count, of: count + missing.length })
}

/** The job of kind `restore`. */
export async function runRestore({ dataFolder: folder, archive, report }: RestoreJob, progress: Progress): Promise<RestoreReport> {
  const added = await restoreBackup(folder, archive, (stage, frame, of) => progress({ stage, frame, of }))
  if (report) await writeWhole(report, JSON.stringify(added))
  return added
}
