import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { mkdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { RawReader } from '@/codec'
import { isRaw } from '@/core/batch'
import { findSets, type Capture } from '@/core/develop'
import { refusal } from '@/core/words'
import type { FrameFile } from '@/schemas'
import type { Progress } from './progress'

const rawReader = () => new RawReader(new URL('raw.mjs', import.meta.url))

/**
 * Pictures of the frames of a folder that can be read sample by sample: raw files are developed, all alike, as the first of them in
 * `all` was shot. What is developed lies in a folder for the time being, and goes when the command ends.
 * `whole` frames may be sets of captures between which the sensor was shifted: each set is one.
 * @param how `small` takes the pictures that cameras put into raw files, where they are large enough to check a series by.
 * @throws Refusal naming a raw file that cannot be read.
 */
export async function readable(frames: FrameFile[], all: FrameFile[], how: 'whole' | 'small', progress: Progress): Promise<FrameFile[]> {
  const first = all.find(({ name }) => isRaw(name))
  if (!first || !frames.some(({ name }) => isRaw(name))) return frames
  const scratch = mkdtempSync(path.join(tmpdir(), 'nitidus-'))
  process.once('exit', () => rmSync(scratch, { recursive: true, force: true }))
  const reader = rawReader()
  try {
    const { development } = await reader.look(first.file, first.name)
    const smaller = new Map(how === 'small' ? await smallPictures(reader, frames, scratch) : [])
    const sets: CapturedFrame[] = how === 'whole' && all.every(({ name }) => isRaw(name)) ? await setsOf(all, reader) : all
    const captures = new Map(sets.map((set) => [set.name, set.captures]))
    const placed = (frames.length === all.length ? frames.filter(({ name }) => captures.has(name)) : frames).map((frame, k) => {
      if (!isRaw(frame.name)) return frame
      const small = smaller.get(frame.name)
      if (small) return { ...frame, file: small }
      return { ...frame, file: path.join(scratch, `${k}.tif`), raw: { file: frame.file, development, captures: captures.get(frame.name) } }
    })
    await developMissing(placed, progress, reader)
    return placed
  } finally {
    await reader.close()
  }
}

type CapturedFrame = FrameFile & { captures?: Capture[] }

/**
 * The frames that raw files are: one each, or one for each set of captures between which the sensor was shifted.
 * @throws Refusal where single frames come before the first set.
 */
export async function setsOf(files: FrameFile[], reader: RawReader): Promise<CapturedFrame[]> {
  const byName = new Map(files.map((frame) => [frame.name, frame]))
  const found = await findSets(
    files.map(({ name }) => name),
    (names) => reader.offsets(names.map((name) => byName.get(name)!.file)),
  )
  if (!found) return files
  const { before, places, sets } = found
  if (before.length > 0) throw refusal('captures.before', { count: before.length })
  const capture = (name: string, k: number) => ({ file: byName.get(name)!.file, x_px: places[k][0], y_px: places[k][1] })
  return sets.map((names) => ({ ...byName.get(names[0])!, captures: names.map(capture) }))
}

async function smallPictures(reader: RawReader, frames: FrameFile[], scratch: string): Promise<[string, string][]> {
  const found = await Promise.all(
    frames.map(async ({ name, file }, k): Promise<[string, string][]> => {
      if (!isRaw(name)) return []
      const small = path.join(scratch, `${k}.jpg`)
      const { preview } = await reader.look(file, name, { preview: small })
      return preview ? [[name, small]] : []
    }),
  )
  return found.flat()
}

/**
 * Develops the raw frames of a job whose pictures are not there yet, on as many cores as there are.
 * @throws Refusal naming a raw file that cannot be read.
 */
export async function developMissing(frames: FrameFile[], progress: Progress, reader = rawReader()): Promise<void> {
  const missing = frames.filter(({ raw, file }) => raw && !existsSync(file))
  if (missing.length === 0) return
  let done = 0
  progress({ stage: 'develop', frame: 0, of: missing.length })
  try {
    await Promise.all(
      missing.map(async ({ name, file, raw }) => {
        await mkdir(path.dirname(file), { recursive: true })
        await reader.developFrame(raw!, file, name)
        progress({ stage: 'develop', frame: ++done, of: missing.length, file: name })
      }),
    )
  } finally {
    await reader.close()
  }
}
