import type { Command } from 'commander'
import { readInGroups, readPicture, readTakenWith, writeWhole } from '@/codec'
import { lightOf, TargetMeasure, type MeasuredTarget } from '@/core/learn/target'
import { refusal } from '@/core/words'
import { asPrinted, check, targetFactsSchema, type FrameFile, type MeasureJob, type TargetFile } from '@/schemas'
import { readJson } from './json'
import { progressTo, type Progress } from './progress'
import { framesIn, openSeries } from './series'

interface Options {
  target: string
  progress?: boolean
}

/** `nitidus measure target DIR`: what frames of the printed sheet tell of focus, strides and apertures, as JSON on standard output. */
export function addMeasure(program: Command): void {
  program
    .command('measure')
    .description('measure focus, strides and depth of field from frames of the printed sheet')
    .argument('<what>', 'what was photographed: target')
    .argument('<folder>', 'folder of the frames')
    .requiredOption('--target <file>', 'how the sheet was printed and what it was taken with, as JSON')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (what: string, folder: string, { target, progress }: Options) => {
      if (what !== 'target') throw refusal('command.measureWhat', { what })
      const facts = check<TargetFile>(targetFactsSchema, await readJson(target))
      const tell = progressTo(progress)
      console.log(JSON.stringify(await measuredFrom(await framesIn(folder, tell), facts, tell), null, 2))
    })
}

/** The job of kind `measure`. */
export async function runMeasure({ frames, facts, report }: MeasureJob, progress: Progress): Promise<void> {
  if (frames.length < 2) throw refusal('run.tooFew', { count: frames.length })
  await writeWhole(report, JSON.stringify(await measuredFrom(frames, facts, progress)))
}

async function measuredFrom(frames: FrameFile[], facts: TargetFile, progress: Progress): Promise<MeasuredTarget> {
  const { facts: first } = await openSeries(frames)
  const measure = new TargetMeasure()
  let index = 0
  for await (const picture of readInGroups(frames, ({ file, name }) => readPicture(file, undefined, name))) {
    const { name } = frames[index++]
    measure.add(name, lightOf(picture, first.colour.icc))
    progress({ stage: 'measure', frame: index, of: frames.length, file: name })
  }
  progress({ stage: 'done', frame: frames.length, of: frames.length })
  return measure.finish({ ...(await aperturesOf(frames, facts)), ...asPrinted(facts) })
}

/** What the cameras wrote into the files, where nothing else is said. */
async function aperturesOf(frames: FrameFile[], { apertures, fNumber }: TargetFile): Promise<{ apertures?: Record<string, number> }> {
  if (apertures || fNumber) return {}
  const told: [string, number][] = []
  for (const { file, name, raw } of frames) {
    const taken = await readTakenWith(raw?.file ?? file)
    if (taken?.fNumber) told.push([name, taken.fNumber])
  }
  return told.length > 0 ? { apertures: Object.fromEntries(told) } : {}
}
