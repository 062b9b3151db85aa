import { readFile } from 'node:fs/promises'
import sharp from 'sharp'
import { brightestOf, developmentFrom, neutralMultipliers, type Capture, type Development, type NeutralPlace, type Offset } from '@/core/develop'
import type { TakenWith } from '@/core/formats'
import { writeWhole } from '../writePicture'
import { developedBy, PLAIN, scalingOf, takenWith, writeDeveloped } from './develop'
import { forgetLibrary, rawLibrary, type RawFile } from './library'
import { mergeSet, offsetsOf, type Merged, type Opened } from './captures'

/** What a thread is asked to do with a raw file. */
export type RawTask =
  | { ask: 'look'; file: string; preview?: string; neutral?: NeutralPlace }
  | { ask: 'develop'; file: string; out: string; development: Development }
  | { ask: 'offsets'; files: string[] }
  | { ask: 'merge'; captures: Capture[]; out: string; development: Development }

/** What a raw file tells before it is developed. */
export interface RawFacts {
  /** As it is developed, upright. */
  width: number
  height: number
  taken: TakenWith
  /** How its series is developed, if this is the frame to go by. */
  development: Development
  /** Whether the camera's own small picture shows what the whole one will, and was written where it was asked for. */
  preview: boolean
}

/** A place whose colour cannot be told, by its code: a refusal itself would lose it on its way between threads. */
export interface NeutralRefused {
  refused: 'raw.neutralLight' | 'raw.neutralDark'
}

/** Answers what was asked for, or null and false where the file is no raw picture, or is damaged. @throws what the disk says. */
export default async function work(task: RawTask): Promise<RawFacts | NeutralRefused | Offset[] | Merged | null | boolean> {
  const { LibRaw } = await rawLibrary()
  if (task.ask === 'offsets') return offsetsOf(task.files, opened(LibRaw))
  if (task.ask === 'merge') return mergeSet(task.captures, task.out, task.development, opened(LibRaw))
  const bytes = await readFile(task.file)
  const raw = new LibRaw()
  if (task.ask === 'look') {
    const found = readThrough(raw, () => look(raw, bytes, task.preview !== undefined, task.neutral))
    if (!found) return null
    if ('refused' in found) return found
    const serves = found.small !== undefined && (await showsAll(found.small, found.facts))
    if (serves && task.preview) await writeWhole(task.preview, found.small!)
    return { ...found.facts, preview: serves }
  }
  const { scaling, gain } = scalingOf(task.development)
  const developed = readThrough(raw, () => {
    raw.open(bytes, { ...PLAIN, ...scaling })
    return developedBy(raw, gain)
  })
  if (!developed) return false
  await writeDeveloped(task.out, developed)
  return true
}

/** Opens file after file with one library. */
const opened =
  (LibRaw: new () => RawFile): Opened =>
  (bytes, settings, read) => {
    const raw = new LibRaw()
    return readThrough(raw, () => {
      raw.open(bytes, { ...PLAIN, ...settings })
      return read(raw)
    })
  }

/** A run is checked by pictures of this width. */
const SMALL_px = 640

/** Whether a camera's small picture shows what the whole one will, upright and uncropped, and enough of it. */
async function showsAll(small: Uint8Array, whole: Pick<RawFacts, 'width' | 'height'>): Promise<boolean> {
  const { width, height } = await sharp(small)
    .metadata()
    .catch(() => ({ width: 0, height: 1 }))
  return width >= Math.min(SMALL_px, whole.width) && Math.abs((width * whole.height) / (height * whole.width) - 1) < 0.01
}

/** The library ends with objects of its own where a file is not what it should be; then nobody knows what it still holds. */
function readThrough<T>(raw: RawFile, read: () => T): T | undefined {
  try {
    const found = read()
    raw.delete()
    return found
  } catch (error) {
    if (error instanceof TypeError) throw error
    forgetLibrary()
    return undefined
  }
}

/** Half the size is enough to know how bright it is, and whether it is whole. */
function look(
  raw: RawFile,
  bytes: Buffer,
  wantsPreview: boolean,
  neutral?: NeutralPlace,
): { facts: Omit<RawFacts, 'preview'>; small?: Uint8Array } | NeutralRefused {
  raw.open(bytes, { ...PLAIN, halfSize: true, userMul: [1, 1, 1, 1] })
  const { flip, width, height, colors, color_data, ...facts } = raw.metadata(true)
  const multipliers = color_data.cam_mul.slice(0, 3)
  if (colors !== 3 || multipliers.some((factor) => !(factor > 0))) throw NO_PICTURE
  const half = raw.imageData()
  const samples = half.data as Uint16Array
  const balanced = neutral ? neutralMultipliers(samples, half.width, half.height, neutral) : multipliers
  if (typeof balanced === 'string') return { refused: balanced }
  const turned = (flip & 4) !== 0
  return {
    facts: {
      width: turned ? height : width,
      height: turned ? width : height,
      taken: takenWith(facts),
      development: developmentFrom(balanced, brightestOf(samples)),
    },
    small: wantsPreview ? previewOf(raw) : undefined,
  }
}

/** Thrown where a file can be read, but is no picture of red, green and blue. */
const NO_PICTURE = Symbol('no picture')

function previewOf(raw: RawFile): Uint8Array | undefined {
  try {
    const small = raw.thumbnailData()
    return small?.format === 'jpeg' ? small.data : undefined
  } catch {
    return undefined
  }
}
