import { withoutDust, type FoundDust } from '@/core/dust'
import { STYLES, type Fused, type SeriesFrame } from '@/core/fuse'
import { heldBack, type MovedParts } from '@/core/moving'
import { bentAtBorder_px, commonRectangle, type Rectangle, type Similarity } from '@/core/raster'
import type { Kernels } from '@/core/raster/kernels'
import type { SeriesRegistration } from '@/core/register'
import { refusal } from '@/core/words'
import type { FuseOutputs, FuseSettings } from '@/schemas'
import type { Progress } from '../progress'
import type { Series } from '../series'
import { keptRegistration } from './keptRegistration'
import { ReadAhead } from './readAhead'
import { registerSeries } from './registerSeries'
import { SoFarWriter } from './soFar'
import { Stopwatch } from './stopwatch'
import { collectGarbage } from './team'

/** Frames this large are not left to the collector's own time. */
const LARGE_px = 4_000_000

export interface FusedSeries extends Fused {
  crop: Rectangle
  reference: number
  registration: SeriesRegistration
  /** Dust on the sensor that was kept out; absent where it was not looked for. */
  dust?: FoundDust
  /** Parts that moved and are shown from one frame each; absent where none did. */
  moved?: MovedParts
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
  { soFar: soFarFolder, registered }: Pick<FuseOutputs, 'soFar' | 'registered'> = {},
): Promise<FusedSeries> {
  const { frames, facts } = series
  if (settings.reference && settings.reference > frames.length) throw refusal('series.reference', { count: frames.length })
  const wanted = (settings.reference ?? Math.ceil(frames.length / 2)) - 1
  const stopwatch = new Stopwatch()
  const { registration, dust, moved } = await keptRegistration(registered, frames, settings, () =>
    registerSeries(series, wanted, settings, stopwatch, progress, kernels),
  )
  const { reference, lost } = registration
  if (settings.reference && lost.includes(wanted)) throw refusal('series.referenceLost', { name: frames[wanted].name })
  if (frames.length - lost.length < 2) throw refusal('series.notOne')
  // Small pictures of the registration would lie beside what fusing takes.
  if (facts.width * facts.height > LARGE_px) collectGarbage()
  const accumulator = STYLES[settings.style].create({
    width: facts.width,
    height: facts.height,
    kernels,
    tuning: settings,
    ...(moved && { heldBack: (index: number) => heldBack(moved, index) }),
  })
  const looking = new SoFarWriter(soFarFolder, frames.length, facts.colour.samplesIcc)
  let soFar: number | undefined
  const { sharp } = settings
  if (sharp && sharp.to > frames.length) throw refusal('series.sharpBeyond', { count: frames.length })
  const isSharp = (index: number) => !sharp || (index >= sharp.from - 1 && index < sharp.to)
  const entries = [...frames.entries()]
  // The depth that is met first is the one that is kept.
  if (settings.prefer === 'far') entries.reverse()
  const used = entries.filter(([index]) => !lost.includes(index) && isSharp(index))
  const passes = settings.finest ? 2 : 1
  const { motions, bends, gains } = registration
  const inOrder = used.map(([, frame]) => frame)
  const reading = new ReadAhead(settings.finest ? [...inOrder, ...inOrder] : inOrder)
  const take = async (done: number, index: number, again: boolean) => {
    progress({ stage: settings.finest ? 'twice' : 'fuse', frame: done + 1, of: passes * used.length, file: frames[index].name, soFar })
    await stopwatch.time('decode', () => reading.arrived())
    stopwatch.timeNow('fuse', () =>
      reading.handOver((samples) => {
        if (dust) withoutDust(samples, facts.width, facts.height, dust)
        accumulator.put(samples)
      }),
    )
    await stopwatch.time('decode', () => reading.goOn())
    const frame: SeriesFrame = { index, motion: motions[index], bend: bends?.[index], gain: gains[index] }
    stopwatch.timeNow('fuse', () => (again ? accumulator.addAgain(frame) : accumulator.add(frame)))
  }
  for (const [n, [index]] of used.entries()) {
    await take(n, index, false)
    soFar = await looking.look(accumulator)
  }
  // Once more for the finest detail, now that the depth is known.
  if (settings.finest) for (const [n, [index]] of used.entries()) await take(used.length + n, index, true)
  const crop = settings.crop === 'common' ? commonOf(registration, facts) : { x: 0, y: 0, width: facts.width, height: facts.height }
  if (crop.width < 16 || crop.height < 16) throw refusal('series.nothingShared')
  return { ...stopwatch.timeNow('fuse', () => accumulator.finish()), crop, reference, registration, dust, moved, stopwatch, soFar }
}

/** What all frames that are used cover, less what bending may bring in from beyond their borders. */
function commonOf(registration: SeriesRegistration, { width, height }: Series['facts']): Rectangle {
  const { bends = [] } = registration
  const common = commonRectangle(usedMotions(registration), width, height)
  const border = Math.ceil(bends.reduce((most, bend) => Math.max(most, bend ? bentAtBorder_px(bend) : 0), 0))
  return { x: common.x + border, y: common.y + border, width: common.width - 2 * border, height: common.height - 2 * border }
}

/** Motions of the frames that are used. */
function usedMotions({ motions, lost }: SeriesRegistration): Similarity[] {
  return motions.filter((_, k) => !lost.includes(k))
}
