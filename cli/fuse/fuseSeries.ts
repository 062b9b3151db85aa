import { readInGroups, readSamples } from '@/codec'
import { DUST_WIDTH_px, DustFinder, withoutDust, type FoundDust } from '@/core/dust'
import { STYLES, type Fused } from '@/core/fuse'
import { bentAtBorder_px, commonRectangle, IDENTITY, smallLuma, type Rectangle, type Similarity } from '@/core/raster'
import type { Kernels } from '@/core/raster/kernels'
import { PairRegistrar, Preparer, SeriesRegistrar, type SeriesRegistration } from '@/core/register'
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
  /** Dust on the sensor that was kept out; absent where it was not looked for. */
  dust?: FoundDust
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
  const { registration, dust } = settings.register
    ? await registerSeries(series, wanted, settings, stopwatch, progress, kernels)
    : { registration: unmoved(frames.length, wanted), dust: undefined }
  const { reference, lost } = registration
  if (settings.reference && lost.includes(wanted)) throw refusal('series.referenceLost', { name: frames[wanted].name })
  if (frames.length - lost.length < 2) throw refusal('series.notOne')
  const accumulator = STYLES[settings.style].create({ width: facts.width, height: facts.height, kernels, tuning: settings })
  const looking = new SoFarWriter(soFarFolder, frames.length, facts.colour.samplesIcc)
  let soFar: number | undefined
  const { sharp } = settings
  if (sharp && sharp.to > frames.length) throw refusal('series.sharpBeyond', { count: frames.length })
  const isSharp = (index: number) => !sharp || (index >= sharp.from - 1 && index < sharp.to)
  const entries = [...frames.entries()]
  // The depth that is met first is the one that is kept.
  if (settings.prefer === 'far') entries.reverse()
  for (const [n, [index, { file, name }]] of entries.entries()) {
    if (lost.includes(index) || !isSharp(index)) continue
    progress({ stage: 'fuse', frame: n + 1, of: frames.length, file: name, soFar })
    const { samples } = await stopwatch.time('decode', () => readSamples(file, undefined, name))
    if (dust) stopwatch.timeNow('fuse', () => withoutDust(samples, facts.width, facts.height, dust))
    const { motions, bends, gains } = registration
    const frame = { index, samples, motion: motions[index], bend: bends?.[index], gain: gains[index] }
    stopwatch.timeNow('fuse', () => accumulator.add(frame))
    if (facts.width * facts.height > LARGE_px) collectGarbage()
    soFar = await looking.look(accumulator)
  }
  const crop = settings.crop === 'common' ? commonOf(registration, facts) : { x: 0, y: 0, width: facts.width, height: facts.height }
  if (crop.width < 16 || crop.height < 16) throw refusal('series.nothingShared')
  return { ...stopwatch.timeNow('fuse', () => accumulator.finish()), crop, reference, registration, dust, stopwatch, soFar }
}

/** What all frames that are used cover, less what bending may bring in from beyond their borders. */
function commonOf(registration: SeriesRegistration, { width, height }: Series['facts']): Rectangle {
  const { bends = [] } = registration
  const common = commonRectangle(usedMotions(registration), width, height)
  const border = Math.ceil(bends.reduce((most, bend) => Math.max(most, bend ? bentAtBorder_px(bend) : 0), 0))
  return { x: common.x + border, y: common.y + border, width: common.width - 2 * border, height: common.height - 2 * border }
}

/** Dust is looked for in so many frames at the most, evenly over the series. */
const DUST_FRAMES = 24

interface Registered {
  registration: SeriesRegistration
  dust?: FoundDust
}

/** Registers a series. Where dust is found it is done again without it: specks, which lie still, hold the picture back. */
async function registerSeries(...[series, reference, settings, ...rest]: RegisteringWith): Promise<Registered> {
  const first = await registerOnce(undefined, series, reference, settings, ...rest)
  if (!first.dust || first.dust.specks.length === 0) return first
  const { registration } = await registerOnce(first.dust, series, reference, { ...settings, dust: 'off' }, ...rest)
  return { registration, dust: first.dust }
}

type RegisteringWith = [
  series: Series,
  reference: number,
  settings: Pick<FuseSettings, 'localWarp' | 'dust'>,
  stopwatch: Stopwatch,
  progress: Progress,
  kernels: Kernels,
]

async function registerOnce(
  known: FoundDust | undefined,
  ...[{ frames, facts }, reference, settings, ...rest]: RegisteringWith
): Promise<Registered> {
  const [stopwatch, progress, kernels] = rest
  const registrar = new SeriesRegistrar(facts.width, new PairRegistrar(kernels), settings.localWarp)
  const preparer = new Preparer(kernels)
  const finder = settings.dust === 'off' ? undefined : new DustFinder()
  // Some two dozen frames tell where dust lies; more take time.
  const every = Math.ceil(frames.length / DUST_FRAMES)
  let index = 0
  for await (const { samples, width, height } of stopwatch.timeEach(
    'decode',
    readInGroups(frames, ({ file, name }) => readSamples(file, REGISTRATION_WIDTH_px, name)),
  )) {
    progress({ stage: 'register', frame: index + 1, of: frames.length, file: frames[index++].name })
    stopwatch.timeNow('register', () => {
      if (known) withoutDust(samples, width, height, known)
      registrar.add(preparer.fromSamples(samples, width, height))
      if ((index - 1) % every === 0) finder?.add(smallLuma(samples, width, height, DUST_WIDTH_px))
    })
  }
  return stopwatch.timeNow('register', () => {
    const registration = registrar.finish(reference)
    const { motions, lost } = registration
    const looked = motions.map((motion, k) => (lost.includes(k) ? undefined : motion)).filter((_, k) => k % every === 0)
    return { registration, dust: finder?.finish(looked, facts.width) }
  })
}

/** Motions of the frames that are used. */
function usedMotions({ motions, lost }: SeriesRegistration): Similarity[] {
  return motions.filter((_, k) => !lost.includes(k))
}

function unmoved(count: number, reference: number): SeriesRegistration {
  const all = <T>(value: T): T[] => Array.from({ length: count }, () => value)
  return { lost: [], reference, motions: all(IDENTITY), gains: all(1), correlations: all(1), stirred: all(0) }
}
