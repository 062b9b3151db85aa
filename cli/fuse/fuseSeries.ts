import { readInGroups, readSamples } from '@/codec'
import { STYLES, type Fused } from '@/core/fuse'
import { bentAtBorder_px, commonRectangle, IDENTITY, type Rectangle } from '@/core/raster'
import type { Kernels } from '@/core/raster/kernels'
import { PairRegistrar, Preparer, SeriesRegistrar, type Following, type SeriesRegistration } from '@/core/register'
import { refusal } from '@/core/words'
import { type FuseSettings } from '@/schemas'
import type { Progress } from '../progress'
import { Stopwatch } from './stopwatch'
import type { Series } from '../series'
import { SoFarWriter } from './soFar'
import { collectGarbage } from './team'

/** Width that registration works at; finer detail adds time and no accuracy that fusing could use. */
const REGISTRATION_WIDTH_px = 1600

/** Frames this large are not left to the collector's own time. */
const LARGE_px = 4_000_000

export interface FusedSeries extends Fused {
  crop: Rectangle
  reference: number
  registration: SeriesRegistration
  stopwatch: Stopwatch
  /** Pictures of what there was so far, if any were asked for. */
  soFar?: number
}

/** Registers and fuses a series, one frame in memory at a time, telling `progress` of each frame and showing what there is so far. */
export async function fuseSeries(
  series: Series,
  settings: FuseSettings,
  progress: Progress,
  kernels: Kernels,
  soFarFolder?: string,
): Promise<FusedSeries> {
  const { frames, facts } = series
  if (settings.reference && settings.reference > frames.length) throw refusal('series.reference', { count: frames.length })
  const wanted = (settings.reference ?? Math.ceil(frames.length / 2)) - 1
  const stopwatch = new Stopwatch()
  const registration = settings.register
    ? await registerSeries(series, wanted, settings.localWarp, stopwatch, progress, kernels)
    : unmoved(frames.length, wanted)
  const { reference, lost } = registration
  if (settings.reference && lost.includes(wanted)) throw refusal('series.referenceLost', { name: frames[wanted].name })
  if (frames.length - lost.length < 2) throw refusal('series.notOne')
  const accumulator = STYLES[settings.style].create({ width: facts.width, height: facts.height, kernels })
  const looking = new SoFarWriter(soFarFolder, frames.length, facts.colour.samplesIcc)
  let soFar: number | undefined
  for (const [index, { file, name }] of frames.entries()) {
    if (lost.includes(index)) continue
    progress({ stage: 'fuse', frame: index + 1, of: frames.length, file: name, soFar })
    const { samples } = await stopwatch.time('decode', () => readSamples(file, undefined, name))
    const { motions, bends, gains } = registration
    const frame = { index, samples, motion: motions[index], bend: bends?.[index], gain: gains[index] }
    stopwatch.timeNow('fuse', () => accumulator.add(frame))
    if (facts.width * facts.height > LARGE_px) collectGarbage()
    soFar = await looking.look(accumulator)
  }
  const crop = settings.crop === 'common' ? commonOf(registration, facts) : { x: 0, y: 0, width: facts.width, height: facts.height }
  if (crop.width < 16 || crop.height < 16) throw refusal('series.nothingShared')
  return { ...stopwatch.timeNow('fuse', () => accumulator.finish()), crop, reference, registration, stopwatch, soFar }
}

/** What all frames that are used cover, less what bending may bring in from beyond their borders. */
function commonOf({ motions, bends = [], lost }: SeriesRegistration, { width, height }: Series['facts']): Rectangle {
  const used = motions.filter((_, k) => !lost.includes(k))
  const common = commonRectangle(used, width, height)
  const border = Math.ceil(bends.reduce((most, bend) => Math.max(most, bend ? bentAtBorder_px(bend) : 0), 0))
  return { x: common.x + border, y: common.y + border, width: common.width - 2 * border, height: common.height - 2 * border }
}

async function registerSeries(
  { frames, facts }: Series,
  reference: number,
  following: Following,
  stopwatch: Stopwatch,
  progress: Progress,
  kernels: Kernels,
): Promise<SeriesRegistration> {
  const registrar = new SeriesRegistrar(facts.width, new PairRegistrar(kernels), following)
  const preparer = new Preparer(kernels)
  let index = 0
  for await (const { samples, width, height } of stopwatch.timeEach(
    'decode',
    readInGroups(frames, ({ file, name }) => readSamples(file, REGISTRATION_WIDTH_px, name)),
  )) {
    progress({ stage: 'register', frame: index + 1, of: frames.length, file: frames[index++].name })
    stopwatch.timeNow('register', () => registrar.add(preparer.fromSamples(samples, width, height)))
  }
  return stopwatch.timeNow('register', () => registrar.finish(reference))
}

function unmoved(count: number, reference: number): SeriesRegistration {
  const all = <T>(value: T): T[] => Array.from({ length: count }, () => value)
  return { lost: [], reference, motions: all(IDENTITY), gains: all(1), correlations: all(1), stirred: all(0) }
}
