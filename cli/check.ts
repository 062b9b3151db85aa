import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import { writeWhole } from '@/codec'
import type { CheckJob, CheckReport } from '@/schemas'
import type { Progress } from './progress'

/** The job of kind `check`: which files are missing or no longer what they were. */
export async function runCheck({ files, report }: CheckJob, progress: Progress): Promise<void> {
  const found: CheckReport = { checked: files.length, missing: [], changed: [] }
  for (const [k, { id, file, sha256 }] of files.entries()) {
    const hash = createHash('sha256')
    const read = await pipeline(createReadStream(file), hash).then(
      () => true,
      () => false,
    )
    if (!read) found.missing.push(id)
    else if (hash.digest('hex') !== sha256) found.changed.push(id)
    progress({ stage: 'check', frame: k + 1, of: files.length })
  }
  await writeWhole(report, JSON.stringify(found))
}
