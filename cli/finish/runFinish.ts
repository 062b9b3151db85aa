import { mkdtemp, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { convertSamples, drawWords, finishedFormatOf, profileOf, readFacts, readGrey, readSamples, readTakenWith, to16, writeFinished } from '@/codec'
import { finish, fittedRecipe, spaceOf, standing, type Canvas, type Grey, type Recipe, type Tools } from '@/core/finish'
import { WasmKernels } from '@/core/raster/kernels'
import { refusal } from '@/core/words'
import { checkRegistration, madeText, type FinishJob } from '@/schemas'
import { withTeam } from '../fuse/team'
import type { Progress } from '../progress'
import { writeLayers, type Beneath } from './layers'

/** What the well-known picture library does for a recipe. */
export const LIBRARY: Omit<Tools, 'kernels'> = {
  resize: async (samples, from, to, channels) => {
    const raw = { width: from.width, height: from.height, channels }
    const { data } = await sharp(samples, { raw, limitInputPixels: false })
      .resize({ ...to, fit: 'fill', kernel: 'lanczos3' })
      .toColourspace(channels === 1 ? 'grey16' : 'rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true })
    return new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
  },
  words: drawWords,
}

/** The job of kind `finish`: a recipe carried out on a picture, and the picture written in the format that its name asks for. */
export async function runFinish(job: FinishJob, progress: Progress): Promise<void> {
  const registration = job.registration === undefined ? undefined : checkRegistration(JSON.parse(await readFile(job.registration, 'utf8')))
  await finishPicture(job, registration && { frames: job.frames ?? [], registration }, progress)
}

/** The same with the frames at hand that are laid under it, where layers are asked for; steps are carried out on all cores. */
export function finishPicture(job: FinishJob, beneath: Beneath | undefined, progress: Progress): Promise<void> {
  // Threads are not worth their start where nothing is computed.
  if (standing(job.recipe.steps).length === 0) return finishWith({ ...LIBRARY, kernels: new WasmKernels() }, job, beneath, progress)
  return withTeam(async (gathering) => {
    const { kernels } = await gathering
    await finishWith({ ...LIBRARY, kernels }, job, beneath, progress)
  })
}

async function finishWith(
  tools: Tools,
  { picture, fused, depth, confidence, recipe: asked, out, taken }: FinishJob,
  beneath: Beneath | undefined,
  progress: Progress,
): Promise<void> {
  const format = finishedFormatOf(out)
  progress({ stage: 'read', frame: 0, of: 3 })
  const { colour, exif, format: was } = await readFacts(picture)
  const { samples, width, height } = await readSamples(picture)
  // For a picture of this size it is meant as it stands; of another, its places lie alike.
  const own = asked.for?.width === width && asked.for.height === height
  const recipe = own ? asked : fittedRecipe(asked, { width, height })
  const wide = to16(samples)
  const canvas: Canvas = {
    samples: wide,
    width,
    height,
    space: spaceOf(colour.samplesIcc),
    depth: depth === undefined ? undefined : await readMap(depth, width, height),
    confidence: confidence === undefined ? undefined : await readMap(confidence, width, height),
    scale: 1,
  }
  progress({ stage: 'finish', frame: 1, of: 3 })
  const layered = format === 'ora' || (format === 'tif' && beneath !== undefined)
  const before = layered ? { ...canvas, samples: wide.slice() } : undefined
  const done = await finish(canvas, recipe.steps, tools)
  progress({ stage: 'write', frame: 2, of: 3 })
  const { samples: finished, icc } = await inProfile(done, colour.samplesIcc, recipe, path.dirname(out))
  const made = taken ?? (await readTakenWith(was === 'tiff' ? picture : exif)) ?? {}
  if (before) {
    const pictures = {
      before,
      fused: fused === undefined ? undefined : await readWhole(fused, before),
      done: { ...done, samples: finished, icc },
      icc: colour.samplesIcc,
      recipe,
      taken: made,
    }
    await writeLayers(out, pictures, beneath, tools, progress)
    return progress({ stage: 'done', frame: 3, of: 3 })
  }
  await writeFinished(
    out,
    format as Exclude<typeof format, 'ora'>,
    { samples: finished, width: done.width, height: done.height },
    {
      bits: format === 'tif' || format === 'png' ? recipe.bits : 8,
      quality: recipe.quality,
      perInch: perInchOf(recipe),
      icc,
      taken: made,
      xmp: madeText(recipe),
    },
  )
  progress({ stage: 'done', frame: 3, of: 3 })
}

/** The picture as it was fused. @throws Refusal where it is of another size. */
async function readWhole(file: string, { width, height }: Canvas): Promise<Uint16Array> {
  const whole = await readSamples(file)
  if (whole.width !== width || whole.height !== height)
    throw refusal('finish.mapSize', { file: path.basename(file), size: `${whole.width} × ${whole.height}`, wanted: `${width} × ${height}` })
  return to16(whole.samples)
}

/** A map of a picture as 16 bits. @throws Refusal where it is of another size. */
async function readMap(file: string, width: number, height: number): Promise<Grey> {
  const map = await readGrey(file)
  if (map.width !== width || map.height !== height)
    throw refusal('finish.mapSize', { file: path.basename(file), size: `${map.width} × ${map.height}`, wanted: `${width} × ${height}` })
  return map
}

/** Samples in the space that is asked for, and its profile. */
async function inProfile(
  { samples, width, height }: Canvas,
  icc: Buffer | undefined,
  { profile }: Recipe,
  folder: string,
): Promise<{ samples: Uint16Array; icc?: Buffer }> {
  if (profile === 'keep') return { samples, icc }
  const scratch = await mkdtemp(path.join(folder, '.finish-'))
  try {
    return { samples: await convertSamples(samples, { width, height }, icc, profile, scratch), icc: profileOf(profile) }
  } finally {
    await rm(scratch, { recursive: true, force: true })
  }
}

/** What a size on paper was asked for at. */
function perInchOf({ steps }: Recipe): number | undefined {
  const size = steps.findLast((step) => step.do === 'size')
  return size && 'perInch' in size ? size.perInch : undefined
}
