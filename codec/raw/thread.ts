import { readFile } from 'node:fs/promises'
import type { LibRawSettings } from 'libraw-wasm'
import sharp from 'sharp'
import { brightestOf, developmentFrom, neutralMultipliers, toWide, type Development, type NeutralPlace } from '@/core/develop'
import type { TakenWith } from '@/core/formats'
import type { Interleaved } from '@/core/raster'
import { profileOf } from '../convert'
import { writePicture, writeWhole } from '../writePicture'
import { forgetLibrary, rawLibrary, type RawFile, type RawMetadata } from './library'

/** What a thread is asked to do with a raw file. */
export type RawTask =
  { ask: 'look'; file: string; preview?: string; neutral?: NeutralPlace } | { ask: 'develop'; file: string; out: string; development: Development }

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
export default async function work(task: RawTask): Promise<RawFacts | NeutralRefused | null | boolean> {
  const bytes = await readFile(task.file)
  const { LibRaw } = await rawLibrary()
  const raw = new LibRaw()
  if (task.ask === 'look') {
    const found = readThrough(raw, () => look(raw, bytes, task.preview !== undefined, task.neutral))
    if (!found) return null
    if ('refused' in found) return found
    const serves = found.small !== undefined && (await showsAll(found.small, found.facts))
    if (serves && task.preview) await writeWhole(task.preview, found.small!)
    return { ...found.facts, preview: serves }
  }
  const developed = readThrough(raw, () => develop(raw, bytes, task.development))
  if (!developed) return false
  const { taken, ...picture } = developed
  await writePicture(task.out, picture, { bits: 16, icc: profileOf('wide'), taken, software: 'Nitidus' })
  return true
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

/** Nothing is done by itself: frames of a series would be made different. Light stays proportional, in the camera's own colours. */
const PLAIN: LibRawSettings = {
  noAutoBright: true,
  adjustMaximumThr: 0,
  useCameraWb: false,
  outputColor: 0,
  outputBps: 16,
  // The library takes six numbers, whatever its description says.
  gamm: [1, 1, 0, 0, 0, 0] as unknown as [number, number],
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

function develop(raw: RawFile, bytes: Buffer, { multipliers, headroom }: Development): Interleaved & { taken: TakenWith } {
  const [red, green, blue] = multipliers
  // Where more than white is kept, the library leaves room for it, and finds a colour for what is beyond.
  const BLENDED = 2
  const keeps = headroom > 1
  raw.open(bytes, { ...PLAIN, highlight: keeps ? BLENDED : 0, userMul: [red, green, blue, green] })
  const facts = raw.metadata(true)
  const { width, height, data } = raw.imageData()
  const samples = data as Uint16Array
  const srgbFromCamera = facts.color_data.rgb_cam.map((row) => row.slice(0, 3))
  toWide(samples, srgbFromCamera, keeps ? Math.max(...multipliers) / headroom : 1)
  return { samples, width, height, taken: takenWith(facts) }
}

function takenWith({
  camera_model,
  lens,
  shutter,
  aperture,
  focal_len,
  iso_speed,
  timestamp,
}: Omit<RawMetadata, 'flip' | 'width' | 'height' | 'colors' | 'color_data'>): TakenWith {
  const known = (value: number) => (value > 0 && Number.isFinite(value) ? Number(value.toPrecision(6)) : undefined)
  return {
    body: camera_model?.trim().slice(0, 80) || undefined,
    lens: lens?.Lens?.trim().slice(0, 80) || undefined,
    taken_at: timestamp > 0 ? clockOf(timestamp) : undefined,
    exposure_s: known(shutter),
    fNumber: known(aperture),
    focalLength_mm: known(focal_len),
    iso: known(iso_speed),
  }
}

/** Cameras note no time zone, and the library takes theirs for this machine's: what the clock showed, kept as UTC. */
function clockOf(timestamp: number): string {
  const at = new Date(timestamp * 1000)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString()
}
