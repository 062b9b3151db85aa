import type { Command } from 'commander'
import { registrationFrom } from '../mend/command'
import { progressTo } from '../progress'
import { framesIn } from '../series'
import { inspect } from './runInspect'

interface Options {
  report: string
  base: string
  bends?: string
  progress?: boolean
}

/** `nitidus inspect`: the places of a fused picture that are worth a look, the worst first, as JSON on standard output. */
export function addInspect(program: Command): void {
  program
    .command('inspect')
    .description('find the places of a fused picture that are worth a look')
    .argument('<folder>', 'folder of the frames')
    .requiredOption('--report <file>', 'report of the render, as JSON')
    .requiredOption('--base <file>', 'the fused picture')
    .option('--bends <file>', 'how frames were bent where parts moved, as JSON')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (folder: string, { report, base, bends, progress }: Options) => {
      const registration = await registrationFrom(report, bends)
      const tell = progressTo(progress)
      const places = await inspect({ frames: await framesIn(folder, tell), picture: base }, registration, tell)
      console.log(JSON.stringify({ places }, null, 2))
    })
}
