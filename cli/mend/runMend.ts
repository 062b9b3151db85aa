import { readFile } from 'node:fs/promises'
import { readFacts, readSamples, to16, readTakenWith, writePicture } from '@/codec'
import { cutPart, layBelow, Mender, piecesOf, type MendBase, type PaintEdit } from '@/core/mend'
import type { Rectangle } from '@/core/raster'
import { createMemory, WasmKernels } from '@/core/raster/kernels'
import { refusal } from '@/core/words'
import { checkRegistration, type MendJob, type Registration } from '@/schemas'
import type { Progress } from '../progress'
import { checkEdits, framesFromTop } from './checkEdits'
import { readDepths, roughDepths } from './depths'
import { Donors } from './donors'

/** Parts of donors that wait for their turn take at most so many bytes. */
const MOST_WAITING = 300e6

/** The job of kind `mend`: edits carried out on a render, in 16 bits, with one donor in memory at a time. */
export async function runMend(job: MendJob, progress: Progress): Promise<void> {
  const registration = checkRegistration(JSON.parse(await readFile(job.registration, 'utf8')))
  await mend(job, registration, progress)
}

/** The same with a registration at hand. */
export async function mend(
  { frames, picture, depth, document, renders = [], out }: Omit<MendJob, 'registration'>,
  registration: Registration,
  progress: Progress,
): Promise<void> {
  const { crop } = registration
  const kernels = new WasmKernels(createMemory())
  const donors = new Donors(frames, registration, kernels)
  const edits = checkEdits(document, crop.width, crop.height)
  const laid = framesFromTop(document.base)
  for (const name of laid) donors.check(name)
  for (const edit of edits) if (edit.kind === 'donor') donors.check(edit.frame)
  const { bits, colour, exif, format } = await readFacts(picture)
  const of = new Set([...laid, ...edits.map(sourceOf)]).size + 1
  let done = 0
  const step = (file?: string) => progress({ stage: 'mend', frame: ++done, of, ...(file && { file }) })

  const open = openerOf(donors, renders, crop, step)
  const [first, ...rest] = batches(edits, crop)
  // Parts of donors do not need the picture: they are cut out while it is read. Should that fail, it is told below.
  const cut = document.base === 'fused' ? cutParts(first, crop, open) : undefined
  cut?.catch(() => undefined)
  const whole = await wholePicture(picture, crop)
  if (document.base !== 'fused') await layFrames(document.base, laid, whole, crop, donors, step)
  const gated = edits.some(({ gate }) => gate !== undefined)
  const depths = gated ? await (depth ? readDepths(depth, crop) : roughDepths(frames, registration, kernels)) : undefined
  const mender = new Mender(whole, crop.width, crop.height, kernels, depths)
  for (const edit of edits) mender.remember(edit)
  carryOut(mender, first, await (cut ?? cutParts(first, crop, open)))
  for (const batch of rest) carryOut(mender, batch, await cutParts(batch, crop, open))
  const taken = (await readTakenWith(format === 'tiff' ? picture : exif)) ?? {}
  await writePicture(out, { samples: whole, width: crop.width, height: crop.height }, { bits, icc: colour.samplesIcc, taken })
  progress({ stage: 'done', frame: of, of })
}

/** A picture of the size of the render as 16-bit samples. @throws Refusal where it has another. */
async function wholePicture(file: string, crop: Rectangle): Promise<Uint16Array> {
  const { samples, width, height } = await readSamples(file)
  if (width !== crop.width || height !== crop.height)
    throw refusal('mend.size', { file, size: `${width} × ${height}`, wanted: `${crop.width} × ${crop.height}` })
  return to16(samples)
}

/** Lays the frames of a base, the top one first, each over what is above its line. */
async function layFrames(
  base: Exclude<MendBase, 'fused'>,
  names: string[],
  whole: Uint16Array,
  crop: Rectangle,
  donors: Donors,
  step: (file: string) => void,
): Promise<void> {
  const lines = 'frame' in base ? [] : [...base.boundaries].reverse()
  for (const [k, name] of names.entries()) {
    const donor = await donors.open(name)
    for (const { part, samples } of donors.strips(donor)) {
      const strip = whole.subarray(3 * part.y * crop.width, 3 * (part.y + part.height) * crop.width)
      if (k === 0) strip.set(samples)
      else {
        const { until = [], ...line } = lines[k]
        layBelow(strip, crop.width, part.height, samples, { ...line, until: until.map(([px, py]) => [px, py - part.y]) })
      }
    }
    step(name)
  }
}

/** Where an edit's pixels come from: a name of its own for each kind of source. */
function sourceOf(edit: PaintEdit): string {
  if (edit.kind === 'donor') return `frame ${edit.frame}`
  return edit.kind === 'render' ? `render ${edit.file}` : ''
}

const samplesIn = ({ width, height }: Rectangle) => 3 * width * height
/** Places in an array that holds many parts: so many samples are copied at a time. */
const alignedIn = (part: Rectangle) => 4 * Math.ceil(samplesIn(part) / 4)

/** Edits in order, in batches whose parts of donors may wait together. */
function* batches(edits: PaintEdit[], crop: Rectangle): Generator<PaintEdit[]> {
  let batch: PaintEdit[] = []
  let waiting = 0
  for (const edit of edits) {
    const bytes = sourceOf(edit) ? piecesOf(edit, crop.width, crop.height).reduce((sum, part) => sum + 2 * samplesIn(part), 0) : 0
    if (batch.length > 0 && waiting + bytes > MOST_WAITING) {
      yield batch
      batch = []
      waiting = 0
    }
    batch.push(edit)
    waiting += bytes
  }
  yield batch
}

interface Opened {
  part: (part: Rectangle, into: Uint16Array) => Uint16Array
}

function openerOf(donors: Donors, renders: { name: string; file: string }[], crop: Rectangle, step: (file: string) => void) {
  return async (edit: PaintEdit): Promise<Opened> => {
    if (edit.kind === 'donor') {
      const donor = await donors.open(edit.frame)
      step(edit.frame)
      return { part: (part, into) => donors.part(donor, part, into) }
    }
    const { file } = edit as Extract<PaintEdit, { kind: 'render' }>
    const picture = await wholePicture(renders.find(({ name }) => name === file)?.file ?? file, crop)
    step(file)
    return { part: (part) => cutPart(picture, crop.width, part) }
  }
}

type Parts = Map<PaintEdit, { part: Rectangle; samples: Uint16Array }[]>

/** Opens each donor once and cuts the parts of its edits out. Meanwhile the next one is decoded; the one before is let go of. */
async function cutParts(edits: PaintEdit[], crop: Rectangle, open: (edit: PaintEdit) => Promise<Opened>): Promise<Parts> {
  const parts: Parts = new Map()
  const sources = [...grouped(edits)].flatMap(([source, its]) => (source ? [its] : []))
  // One array for all: many would keep the collector of memory busy.
  const pieces = new Map(sources.flat().map((edit) => [edit, piecesOf(edit, crop.width, crop.height)]))
  const room = new Uint16Array([...pieces.values()].flat().reduce((sum, part) => sum + alignedIn(part), 0))
  let used = 0
  const placeFor = (part: Rectangle) => {
    const at = used
    used += alignedIn(part)
    return room.subarray(at, at + samplesIn(part))
  }
  let coming = sources.length > 0 ? open(sources[0][0]) : undefined
  for (const [k, its] of sources.entries()) {
    const opened = await coming!
    coming = k + 1 < sources.length ? open(sources[k + 1][0]) : undefined
    // Should it fail, that is told when its turn comes.
    coming?.catch(() => undefined)
    for (const edit of its) {
      parts.set(
        edit,
        pieces.get(edit)!.map((part) => ({ part, samples: opened.part(part, placeFor(part)) })),
      )
    }
  }
  return parts
}

/** Makes edits in their order, and lets go of the parts that they needed. */
function carryOut(mender: Mender, edits: PaintEdit[], parts: Parts): void {
  for (const edit of edits) {
    if (edit.kind === 'heal') mender.heal(edit)
    else if (edit.kind === 'original') mender.restore(edit)
    else for (const { part, samples } of parts.get(edit)!) mender.paint(edit, part, samples)
    parts.delete(edit)
  }
}

/** Edits by their source. */
function grouped(edits: PaintEdit[]): Map<string, PaintEdit[]> {
  const groups = new Map<string, PaintEdit[]>()
  for (const edit of edits) groups.set(sourceOf(edit), [...(groups.get(sourceOf(edit)) ?? []), edit])
  return groups
}
