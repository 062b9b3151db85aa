import { readdir } from 'node:fs/promises'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { readInGroups, readExif, readFacts, readPicture, writeWhole } from '@/codec'
import { luma } from '@/core/raster'
import { coarse, splitCard, type CardFrame } from '@/core/survey'
import { InputError } from '@/schemas'
import { progressTo } from './progress'

const USAGE = 'Usage: nitidus split DIR [--report split.json] [--progress]'
const PICTURE = /\.(jpe?g|png|tiff?)$/i
const WIDTH_px = 320

/** `nitidus split DIR`: which frames of a card belong to which series, and why, as JSON. */
export async function split(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({ args, allowPositionals: true, options: { report: { type: 'string' }, progress: { type: 'boolean' } } })
  if (positionals.length !== 1) throw new InputError(USAGE)
  const [folder] = positionals
  const progress = progressTo(values.progress ? process.stderr : undefined)
  const names = (await readdir(folder))
    .filter((name) => PICTURE.test(name) && !name.startsWith('.'))
    .sort(new Intl.Collator('en', { numeric: true }).compare)
  if (names.length === 0) throw new InputError(`${folder} holds no JPEG, PNG or TIFF files; give the folder that holds the frames.`)
  const frames: CardFrame[] = []
  const files = names.map((name) => path.join(folder, name))
  for await (const frame of readInGroups(files, cardFrame)) {
    frames.push(frame)
    progress({ stage: 'split', frame: frames.length, of: names.length, file: frame.file })
  }
  // As they were taken, where all of them tell.
  if (frames.every(({ taken_ms }) => taken_ms !== undefined)) frames.sort((a, b) => a.taken_ms! - b.taken_ms!)
  const report = JSON.stringify(splitCard(frames), null, 2)
  if (values.report) await writeWhole(values.report, report)
  else console.log(report)
}

async function cardFrame(file: string): Promise<CardFrame> {
  const { width, height, exif: block } = await readFacts(file)
  const exif = readExif(block)
  const picture = await readPicture(file, WIDTH_px)
  return {
    file: path.basename(file),
    width,
    height,
    ...(exif?.taken_at && { taken_ms: Date.parse(exif.taken_at) }),
    fNumber: exif?.fNumber,
    focalLength_mm: exif?.focalLength_mm,
    exposure_s: exif?.exposure_s,
    motif: coarse(luma(picture)),
  }
}
