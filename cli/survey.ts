import path from 'node:path'
import { parseArgs } from 'node:util'
import { readInGroups, readPicture, writeWhole } from '@/codec'
import { Survey, type Mover } from '@/core/survey'
import { InputError } from '@/schemas'
import { openSeries } from './fuse/series'
import { progressTo } from './progress'

const USAGE = 'Usage: nitidus survey DIR [--mover rail|ring] [--report report.json] [--progress]'

/** Frames are surveyed at this width; focus, motion and exposure show as well as at full size. */
const WIDTH_px = 640

/** `nitidus survey DIR`: what the frames of a folder are worth, as JSON on standard output or in a file. */
export async function survey(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { mover: { type: 'string' }, report: { type: 'string' }, progress: { type: 'boolean' } },
  })
  if (positionals.length !== 1) throw new InputError(USAGE)
  if (values.mover !== undefined && values.mover !== 'rail' && values.mover !== 'ring') throw new InputError('--mover is rail or ring.')
  const progress = progressTo(values.progress ? process.stderr : undefined)
  const { files } = await openSeries(positionals[0])
  const made = new Survey(values.mover as Mover | undefined)
  let index = 0
  for await (const picture of readInGroups(files, (file) => readPicture(file, WIDTH_px))) {
    const file = path.basename(files[index++])
    made.add(file, picture)
    progress({ stage: 'survey', frame: index, of: files.length, file })
  }
  const report = JSON.stringify(made.finish(), null, 2)
  progress({ stage: 'done', frame: files.length, of: files.length })
  if (values.report) await writeWhole(values.report, report)
  else console.log(report)
}
