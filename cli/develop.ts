import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import type { Command } from 'commander'
import { RawReader } from '@/codec'
import { isRaw } from '@/core/batch'
import type { NeutralPlace } from '@/core/develop'
import { refusal } from '@/core/words'
import { progressTo } from './progress'
import { developMissing, setsOf } from './raw'
import { framesListed } from './series'

interface Options {
  out: string
  like?: string
  neutral?: string
  progress?: boolean
}

/** `nitidus develop DIR --out DIR`: raw files as TIFF files of 16 bits, all developed alike. */
export function addDevelop(program: Command): void {
  program
    .command('develop')
    .description('develop the raw files of a folder into 16-bit TIFF files, all alike')
    .argument('<folder>', 'folder of the raw files')
    .requiredOption('--out <folder>', 'folder for the TIFF files')
    .option('--like <file>', 'frame whose white balance and brightness all take; the first where left out')
    .option('--neutral <x,y>', 'place of that frame that becomes grey, in px')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(develop)
}

async function develop(folder: string, { out, like, neutral, progress }: Options): Promise<void> {
  const frames = (await framesListed(folder)).filter(({ name }) => isRaw(name))
  if (frames.length === 0) throw refusal('raw.none', { folder })
  const chosen = like === undefined ? frames[0] : frames.find(({ name }) => name === like)
  if (!chosen) throw refusal('series.noSuchFrame', { folder, name: like! })
  await mkdir(out, { recursive: true })
  const reader = new RawReader(new URL('raw.mjs', import.meta.url))
  const first = await reader.look(chosen.file, chosen.name)
  const place = neutral === undefined ? undefined : placeIn(neutral, first)
  const { development } = place ? await reader.look(chosen.file, chosen.name, { neutral: place }) : first
  const tell = progressTo(progress)
  const sets = await setsOf(frames, reader)
  const placed = sets.map(({ name, file, captures }) => ({
    name,
    file: path.join(out, `${path.parse(name).name}.tif`),
    raw: { file, development, captures },
  }))
  await developMissing(placed, tell, reader)
  tell({ stage: 'done', frame: sets.length, of: sets.length })
}

/** A place in px as parts of the frame. @throws Refusal where it is none, or lies outside. */
function placeIn(text: string, { width, height }: { width: number; height: number }): NeutralPlace {
  const [, x, y] = /^(\d+(?:\.\d+)?),(\d+(?:\.\d+)?)$/.exec(text.trim()) ?? []
  const place: NeutralPlace = [Number(x) / width, Number(y) / height]
  if (!place.every((part) => part >= 0 && part <= 1)) throw refusal('raw.neutralPlace')
  return place
}
