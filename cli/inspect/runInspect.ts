import { readFile } from 'node:fs/promises'
import { readSamples, writeWhole } from '@/codec'
import { DUST_WIDTH_px, DustFinder } from '@/core/dust'
import { Inspector, told, type Finding, type Place } from '@/core/inspect'
import { commonRectangle, layOn, narrowed, overlap, type Plane } from '@/core/raster'
import { createMemory, SmallLuma, WasmKernels } from '@/core/raster/kernels'
import { Survey } from '@/core/survey'
import { refusal } from '@/core/words'
import { checkRegistration, type InspectJob, type Registration } from '@/schemas'
import type { Progress } from '../progress'
import { usedFrames } from '../usedFrames'
import { borders, missingSlices, trails } from './wholeSeries'

/** Pictures are compared this wide at the most. */
const WIDTH_px = 1600
/** A list longer than this is not gone through. */
const MOST_PLACES = 60

/** The job of kind `inspect`. */
export async function runInspect({ registration, report, ...job }: InspectJob, progress: Progress): Promise<void> {
  const places = await inspect(job, checkRegistration(JSON.parse(await readFile(registration, 'utf8'))), progress)
  await writeWhole(report, JSON.stringify({ places }))
}

/** The places of a fused picture that are worth a look, the worst first, one frame in memory at a time. */
export async function inspect(
  { frames, picture }: Pick<InspectJob, 'frames' | 'picture'>,
  registration: Registration,
  progress: Progress,
): Promise<Place[]> {
  const { crop } = registration
  const used = usedFrames(frames, registration)
  const { samples, width, height } = await readSamples(picture)
  if (width !== crop.width || height !== crop.height)
    throw refusal('mend.size', { file: picture, size: `${width} × ${height}`, wanted: `${crop.width} × ${crop.height}` })
  const kernels = new WasmKernels(createMemory())
  const luma = new SmallLuma(kernels)
  const fused = luma.of(samples, width, height, WIDTH_px)
  const step = 2 ** Math.round(Math.log2(width / fused.width))
  const inspector = new Inspector(fused)
  const survey = new Survey()
  const dust = new DustFinder(kernels)
  let size = { width, height }
  for (const [k, { file, place }] of used.entries()) {
    const frame = await readSamples(file.file, undefined, file.name)
    size = { width: frame.width, height: frame.height }
    const wanted_px = Math.ceil(frame.width / step)
    const larger = luma.of(frame.samples, frame.width, frame.height, Math.max(wanted_px, DUST_WIDTH_px))
    const small = brightened(narrowed(larger, wanted_px), place.gain)
    inspector.add(layOn(small, size, place.motion, place.bend, { ...crop, step, width: fused.width, height: fused.height }))
    const least = narrowed(larger, DUST_WIDTH_px)
    dust.add(least)
    // The survey tells focus by luma alone.
    survey.add(file.name, { width: least.width, height: least.height, planes: [least, least, least] })
    progress({ stage: 'inspect', frame: k + 1, of: used.length, file: file.name })
  }
  const motions = used.map(({ place }) => place.motion)
  const files = used.map(({ file }) => file.name)
  const inFull = (cells: Finding['cells']) => scaled(inspector.inPicture(cells), step, crop)
  const dusty = trails(dust.finish(motions, size.width), motions, size, { fused, step, crop })
  // A trail may look like a part that moved.
  const found: Place[] = inspector
    .findings()
    .map((finding) => told(finding, inFull(finding.cells), files))
    .filter((place) => !dusty.some((trail) => overlap(place, trail)))
  found.push(...dusty)
  found.push(...missingSlices(survey.finish(), inspector, files, inFull, { crop, size, motions }))
  found.push(...borders(commonRectangle(motions, size.width, size.height), crop))
  progress({ stage: 'done', frame: used.length, of: used.length })
  return found.sort((a, b) => b.severity - a.severity).slice(0, MOST_PLACES)
}

function brightened({ data, ...size }: Plane, gain: number): Plane {
  return { ...size, data: data.map((value) => Math.min(1, value * gain)) }
}

/** A rectangle of the small picture in px of the whole one, inside it. */
function scaled({ x, y, width, height }: Finding['cells'], step: number, crop: { width: number; height: number }) {
  const [left, top] = [x * step, y * step]
  return { x: left, y: top, width: Math.min(crop.width - left, width * step), height: Math.min(crop.height - top, height * step) }
}
