import type { Command } from 'commander'
import { readInGroups, readPicture, readFacts, readTakenWith, writeWhole } from '@/codec'
import { luma } from '@/core/raster'
import { coarse, splitCard, type CardFrame, type CardSplit } from '@/core/survey'
import type { FrameFile, SplitJob } from '@/schemas'
import { progressTo, type Progress } from './progress'
import { framesIn } from './series'

const WIDTH_px = 320

/** `nitidus split DIR`: which frames of a card belong to which series, and why, as JSON. */
export function addSplit(program: Command): void {
  program
    .command('split')
    .description('split a card into series, and say why')
    .argument('<folder>', 'folder of the frames')
    .option('--report <file>', 'write the report to a file instead of standard output')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (folder: string, { report, progress }: { report?: string; progress?: boolean }) => {
      const tell = progressTo(progress)
      const found = JSON.stringify(await splitOf(await framesIn(folder, tell, undefined, 'small'), tell), null, 2)
      if (report) await writeWhole(report, found)
      else console.log(found)
    })
}

/** The job of kind `split`. */
export async function runSplit({ frames, report }: SplitJob, progress: Progress): Promise<void> {
  await writeWhole(report, JSON.stringify(await splitOf(frames, progress)))
}

async function splitOf(files: FrameFile[], progress: Progress): Promise<CardSplit> {
  const frames: CardFrame[] = []
  for await (const frame of readInGroups(files, cardFrame)) {
    frames.push(frame)
    progress({ stage: 'split', frame: frames.length, of: files.length, file: frame.file })
  }
  // As they were taken, where all of them tell.
  if (frames.every(({ taken_ms }) => taken_ms !== undefined)) frames.sort((a, b) => a.taken_ms! - b.taken_ms!)
  return splitCard(frames)
}

async function cardFrame({ file, name }: FrameFile): Promise<CardFrame> {
  const { width, height, exif, format } = await readFacts(file, name)
  const taken = await readTakenWith(format === 'tiff' ? file : exif)
  const picture = await readPicture(file, WIDTH_px, name)
  return {
    file: name,
    width,
    height,
    ...(taken?.taken_at && { taken_ms: Date.parse(taken.taken_at) }),
    fNumber: taken?.fNumber,
    focalLength_mm: taken?.focalLength_mm,
    exposure_s: taken?.exposure_s,
    motif: coarse(luma(picture)),
  }
}
