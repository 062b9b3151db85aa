import { existsSync } from 'node:fs'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { colourText, readFacts, type PictureFacts } from '@/codec'
import { isPicture } from '@/core/batch'
import { refusal } from '@/core/words'
import type { FrameFile } from '@/schemas'
import type { Progress } from './progress'
import { readable } from './raw'

/** The kernels' memory holds 4 GB, and a pixel takes 47 bytes of it. */
const MOST_px = 85_000_000

export interface Series {
  frames: FrameFile[]
  facts: PictureFacts
}

/**
 * The frames of a folder in the order of their names, or the `chosen` ones in the order given; raw ones developed (`whole`), or as the
 * camera's own small pictures show them (`small`).
 * @throws Refusal where the folder cannot be read, a chosen frame is not in it, or a raw file cannot be read.
 */
export async function framesIn(folder: string, progress: Progress, chosen?: string[], how: 'whole' | 'small' = 'whole'): Promise<FrameFile[]> {
  const all = await framesListed(folder)
  const strange = chosen?.find((name) => !existsSync(path.join(folder, name)))
  if (strange !== undefined) throw refusal('series.noSuchFrame', { folder, name: strange })
  const frames = chosen?.map((name) => ({ name, file: path.join(folder, name) })) ?? all
  if (frames.length === 0) throw refusal('folder.noPictures', { folder })
  if (frames.length === 1) throw refusal('series.oneFrame', { folder })
  return readable(frames, all, how, progress)
}

/** The pictures of a folder in the order of their names. @throws Refusal where it cannot be read. */
export async function framesListed(folder: string): Promise<FrameFile[]> {
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => {
    throw refusal('folder.unreadable', { folder })
  })
  // What is no file (a folder, a pipe) is no frame, whatever it is called; a link is followed, as the user made it.
  const names = entries.filter((entry) => entry.isFile() || entry.isSymbolicLink()).map(({ name }) => name)
  return names
    .filter((name) => isPicture(name) && !name.startsWith('.'))
    .sort(new Intl.Collator('en', { numeric: true }).compare)
    .map((name) => ({ name, file: path.join(folder, name) }))
}

/** The names that `--frames a,b,…` or `--frames-file list.txt` ask for; undefined for all. */
export async function chosenNames({ frames, framesFile }: { frames?: string; framesFile?: string }): Promise<string[] | undefined> {
  if (frames !== undefined) return frames.split(',')
  if (framesFile === undefined) return undefined
  const list = await readFile(framesFile, 'utf8').catch(() => {
    throw refusal('command.unreadable', { file: framesFile })
  })
  return list.split(/\r?\n/).filter((name) => name !== '')
}

/**
 * Frames checked to be a series: of one size and in one colour space.
 * @throws Refusal where one does not belong, or they are too large.
 */
export async function openSeries(frames: FrameFile[]): Promise<Series> {
  const [{ name: firstName }] = frames
  let first: PictureFacts | undefined
  for (const { name, file } of frames) {
    const facts = await readFacts(file, name)
    first ??= facts
    if (facts.width !== first.width || facts.height !== first.height)
      throw refusal('frame.size', { name, size: `${facts.width} × ${facts.height}`, other: firstName, otherSize: `${first.width} × ${first.height}` })
    if (!sameProfile(facts, first))
      throw refusal('frame.profile', { name, profile: colourText(facts.colour), other: firstName, otherProfile: colourText(first.colour) })
  }
  const { width, height } = first!
  if (width * height > MOST_px) throw refusal('series.tooLarge', { megapixels: Math.round((width * height) / 1e6), most: MOST_px / 1e6 })
  return { frames, facts: first! }
}

function sameProfile({ colour: a }: PictureFacts, { colour: b }: PictureFacts): boolean {
  return a.model === b.model && (a.icc && b.icc ? a.icc.equals(b.icc) : a.icc === b.icc)
}
