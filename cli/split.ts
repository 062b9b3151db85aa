import path from 'node:path'
import type { Command } from 'commander'
import { RawReader, readInGroups, readPicture, readFacts, readTakenWith, writeWhole } from '@/codec'
import { luma } from '@/core/raster'
import { isRaw } from '@/core/batch'
import { findSets } from '@/core/develop'
import { coarse, splitAsTaken, type CardFrame, type CardSeries } from '@/core/survey'
import { say } from '@/core/words'
import type { FrameFile, SplitJob, SplitReport } from '@/schemas'
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
      const frames = await framesIn(folder, tell, undefined, 'small')
      const raws = frames.flatMap(({ name }) => (isRaw(name) ? [{ name, file: path.join(folder, name) }] : []))
      const found = JSON.stringify(await splitOf({ frames, raws }, tell), null, 2)
      if (report) await writeWhole(report, found)
      else console.log(found)
    })
}

/** The job of kind `split`. */
export async function runSplit({ report, ...job }: SplitJob, progress: Progress): Promise<void> {
  await writeWhole(report, JSON.stringify(await splitOf(job, progress)))
}

async function splitOf({ frames: files, raws = [] }: Pick<SplitJob, 'frames' | 'raws'>, progress: Progress): Promise<SplitReport> {
  const frames: CardFrame[] = []
  for await (const frame of readInGroups(files, cardFrame)) {
    frames.push(frame)
    progress({ stage: 'split', frame: frames.length, of: files.length, file: frame.file })
  }
  const found = splitAsTaken(frames)
  const originals = new Map(raws.map(({ name, file }) => [name, file]))
  if (originals.size === 0) return found
  progress({ stage: 'captures', frame: 0, of: originals.size })
  const reader = new RawReader(new URL('raw.mjs', import.meta.url))
  try {
    return { ...found, series: (await Promise.all(found.series.map((one) => withCaptures(one, originals, reader)))).flat() }
  } finally {
    await reader.close()
  }
}

/** A series with the sets that its files are, where they are raw and the sensor was shifted between them; single frames before those are a series of their own. */
async function withCaptures(one: CardSeries, originals: Map<string, string>, reader: RawReader): Promise<SplitReport['series']> {
  if (!one.files.every((name) => originals.has(name))) return [one]
  const found = await findSets(one.files, (some) => reader.offsets(some.map((name) => originals.get(name)!)))
  if (!found) return [one]
  const { before, ...captures } = found
  if (before.length === 0) return [{ ...one, captures }]
  const { code, text } = say('split.captures')
  return [
    { ...one, files: before },
    { files: captures.sets.flat(), reason: text, reasonCode: code, captures },
  ]
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
