import { mkdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { readFacts, readTakenWith, writePicture, writeWhole } from '@/codec'
import type { Fused } from '@/core/fuse'
import { framesNeeded, lossOf, type Luma, type Needed, type Subset } from '@/core/needed'
import type { Rectangle } from '@/core/raster'
import { refusal, say, type Sentence } from '@/core/words'
import { checkRegistration, type FrameFile, type FuseSettings, type NeededJob, type NeededReport, type Registration } from '@/schemas'
import { withTeam } from '../fuse/team'
import type { Progress } from '../progress'
import { openSeries } from '../series'
import { usedFrames } from '../usedFrames'
import { KnownSeries } from './fewerFrames'

/** Of fewer frames there is nothing to save. */
const LEAST_FRAMES = 4
/** A look at the place where most is lost is so large. */
const LOOK = { width: 480, height: 320 }

/** What is known of a render: its registration, settings, and what moved or was dusty. */
export interface KnownRender {
  registration: Registration
  settings: FuseSettings
  /** Parts that moved, px of the reference frame: they are not judged. */
  parts: Rectangle[]
  dusty: boolean
}

/** The job of kind `needed`. */
export async function runNeeded({ frames, registration, report, looks, ...known }: NeededJob, progress: Progress): Promise<void> {
  const found = await needed(frames, { registration: checkRegistration(JSON.parse(await readFile(registration, 'utf8'))), ...known }, progress, looks)
  await writeWhole(report, JSON.stringify(found, null, 2))
}

/**
 * A series fused from fewer of its frames against all of them, registered as the render was. `looks` is a folder for a look at the
 * place where each subset loses most, named by how many frames it has.
 */
export function needed(frames: FrameFile[], known: KnownRender, progress: Progress, looks?: string): Promise<NeededReport> {
  return withTeam(async (gathering) => {
    const { registration, settings } = known
    const { crop } = registration
    const used = usedFrames(frames, registration)
    if (used.length < LEAST_FRAMES) throw refusal('needed.few', { count: used.length })
    const { facts } = await openSeries(used.map(({ file }) => file))
    const { kernels } = await gathering
    const series = new KnownSeries(used, facts, settings, kernels)
    if (known.dusty) await series.findDust()
    const names = used.map(({ file }) => file.name)
    const parts = known.parts.map(({ x, y, ...size }) => ({ x: x - crop.x, y: y - crop.y, ...size }))
    let frame = 0
    const onFrame = (file: string) => progress({ stage: 'needed', frame: ++frame, of: Math.max(frame, 2 * names.length), file })
    const whole = lumaOf(await series.fuse([...names.keys()], onFrame), crop)
    if (looks) await mkdir(looks, { recursive: true })
    const found = await framesNeeded(names.length, async (places) => {
      const fused = await series.fuse(places, onFrame)
      const loss = lossOf(whole, lumaOf(fused, crop), parts)
      if (looks && loss.softest) {
        const look = lookAt(loss.softest, crop)
        const cut = { ...look, x: look.x + crop.x, y: look.y + crop.y }
        await writePicture(path.join(looks, `${places.length}.png`), fused, { bits: 8, crop: cut, icc: facts.colour.samplesIcc })
        return { ...loss, softest: look }
      }
      return loss
    })
    progress({ stage: 'done', frame, of: frame })
    return reportOf(found, names, await secondsEach(used.map(({ file }) => file)))
  })
}

/** Luma of the part of a fused picture that is delivered. */
export function lumaOf({ width, samples }: Pick<Fused, 'width' | 'samples'>, crop: Rectangle): Luma {
  const data = new Uint16Array(crop.width * crop.height)
  for (let y = 0, i = 0; y < crop.height; y++)
    for (let x = 0, s = 3 * ((crop.y + y) * width + crop.x); x < crop.width; x++, i++, s += 3)
      data[i] = 0.2126 * samples[s] + 0.7152 * samples[s + 1] + 0.0722 * samples[s + 2] + 0.5
  return { width: crop.width, height: crop.height, data }
}

/** A view around a place, within the picture. */
function lookAt(place: Rectangle, { width, height }: { width: number; height: number }): Rectangle {
  const [wide, high] = [Math.min(LOOK.width, width), Math.min(LOOK.height, height)]
  const within = (middle: number, size: number, all: number) => Math.round(Math.min(all - size, Math.max(0, middle - size / 2)))
  return { x: within(place.x + place.width / 2, wide, width), y: within(place.y + place.height / 2, high, height), width: wide, height: high }
}

/** Seconds from frame to frame, by what the files say; undefined where they do not. */
async function secondsEach(frames: FrameFile[]): Promise<number | undefined> {
  const taken: number[] = []
  for (const { file, name } of [frames[0], frames.at(-1)!]) {
    const { exif, format } = await readFacts(file, name)
    const at = (await readTakenWith(format === 'tiff' ? file : exif))?.taken_at
    if (at) taken.push(Date.parse(at) / 1000)
  }
  if (taken.length < 2 || taken[0] === taken[1]) return undefined
  return Math.abs(taken[1] - taken[0]) / (frames.length - 1)
}

function reportOf({ subsets, fewest }: Needed, names: string[], each_s: number | undefined): NeededReport {
  const count = names.length
  return {
    subsets: subsets.map(({ every, frames, psnr_dB, worst_dB, soft_percent, visible, softest }) => ({
      every,
      frames: frames.map((at) => names[at]),
      psnr_dB: rounded(psnr_dB),
      worst_dB: rounded(worst_dB),
      soft_percent: rounded(soft_percent),
      visible,
      ...(softest && { softest }),
    })),
    fewest: fewest ? { every: fewest.every, frames: fewest.frames.length } : { every: 1, frames: count },
    ...sentenceOf(subsets, fewest, count, each_s),
  }
}

function sentenceOf(subsets: Subset[], fewest: Subset | undefined, count: number, each_s: number | undefined): Sentence {
  const first = subsets.find(({ visible }) => visible)
  const shows = first ? { kept: first.frames.length, soft_percent: Math.max(1, Math.round(first.soft_percent)) } : undefined
  if (!fewest) return say('needed.all', { count, shows })
  const kept = fewest.frames.length
  const saved_s = each_s === undefined ? undefined : (count - kept) * each_s
  return say('needed.fewer', { count, kept, every: Number.isInteger(fewest.every) ? fewest.every : undefined, saved_s, shows })
}

const rounded = (value: number) => Number(value.toFixed(2))
