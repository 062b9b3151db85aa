import { isMoverKind, type MoverKind } from '@/core/movers'
import type { Command } from 'commander'
import { readInGroups, readPicture, writeWhole } from '@/codec'
import { Survey, type SurveyReport } from '@/core/survey'
import { refusal } from '@/core/words'
import type { FrameFile, SurveyJob } from '@/schemas'
import { progressTo, type Progress } from './progress'
import { framesIn, openSeries } from './series'

/** Frames are surveyed at this width; focus, motion and exposure show as well as at full size. */
const WIDTH_px = 640

/** `nitidus survey DIR`: what the frames of a folder are worth, as JSON on standard output or in a file. */
export function addSurvey(program: Command): void {
  program
    .command('survey')
    .description('check a series: order, ends, gaps, and what is wrong with which frame')
    .argument('<folder>', 'folder of the frames')
    .option('--mover <mover>', 'what moved the focus: rail or ring, if you know')
    .option('--report <file>', 'write the report to a file instead of standard output')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (folder: string, { mover, report, progress }: { mover?: string; report?: string; progress?: boolean }) => {
      if (mover !== undefined && !isMoverKind(mover)) throw refusal('command.mover')
      const tell = progressTo(progress)
      const found = JSON.stringify(await surveyOf(await framesIn(folder, tell, undefined, 'small'), mover, tell), null, 2)
      if (report) await writeWhole(report, found)
      else console.log(found)
    })
}

/** The job of kind `survey`. */
export async function runSurvey({ frames, mover, report }: SurveyJob, progress: Progress): Promise<void> {
  if (frames.length < 2) throw refusal('run.tooFew', { count: frames.length })
  await writeWhole(report, JSON.stringify(await surveyOf(frames, mover, progress)))
}

async function surveyOf(frames: FrameFile[], mover: MoverKind | undefined, progress: Progress): Promise<SurveyReport> {
  await openSeries(frames)
  const made = new Survey(mover)
  let index = 0
  for await (const picture of readInGroups(frames, ({ file, name }) => readPicture(file, WIDTH_px, name))) {
    const { name } = frames[index++]
    made.add(name, picture)
    progress({ stage: 'survey', frame: index, of: frames.length, file: name })
  }
  progress({ stage: 'done', frame: frames.length, of: frames.length })
  return made.finish()
}
