import type { Command } from 'commander'
import { reportSchema, check, type FuseReport } from '@/schemas'
import { readJson } from '../json'
import { registrationFrom } from '../mend/command'
import { progressTo } from '../progress'
import { framesIn } from '../series'
import { needed } from './runNeeded'

interface Options {
  report: string
  bends?: string
  looks?: string
  progress?: boolean
}

/** `nitidus frames-needed`: how few of a series' frames would have done, as JSON on standard output. */
export function addNeeded(program: Command): void {
  program
    .command('frames-needed')
    .description('fuse a series from fewer frames and say how many would have done')
    .argument('<folder>', 'folder of the frames')
    .requiredOption('--report <file>', 'report of the render, as JSON')
    .option('--bends <file>', 'how frames were bent where parts moved, as JSON')
    .option('--looks <folder>', 'write a look at the place where each loses most')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (folder: string, { report, bends, looks, progress }: Options) => {
      const { settings, parts = [], dust = [] } = check<FuseReport>(reportSchema, await readJson(report))
      const registration = await registrationFrom(report, bends)
      const known = { registration, settings, parts, dusty: dust.length > 0 }
      const tell = progressTo(progress)
      console.log(JSON.stringify(await needed(await framesIn(folder, tell), known, tell, looks), null, 2))
    })
}
