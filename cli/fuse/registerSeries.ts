import { readInGroups, readSamples } from '@/codec'
import { DUST_WIDTH_px, DustFinder, withoutDust, type FoundDust } from '@/core/dust'
import { calmed, lookedAt_px, MovingFinder, withMoments, type MovedParts } from '@/core/moving'
import { IDENTITY, narrowed } from '@/core/raster'
import { SmallLuma, type Kernels } from '@/core/raster/kernels'
import { PairRegistrar, Preparer, SeriesRegistrar, type SeriesRegistration } from '@/core/register'
import { refusal } from '@/core/words'
import type { FuseSettings } from '@/schemas'
import type { Progress } from '../progress'
import type { Series } from '../series'
import type { Stopwatch } from './stopwatch'

/** Width that registration works at; finer detail adds time and no accuracy that fusing could use. */
const REGISTRATION_WIDTH_px = 1600
/** Dust is looked for in so many frames at the most, evenly over the series. */
const DUST_FRAMES = 24

/** What is known of a series before its frames are fused. */
export interface Registered {
  registration: SeriesRegistration
  /** Dust on the sensor; absent where it was not looked for. */
  dust?: FoundDust
  /** Parts that moved by themselves, each with the frame that shows it; absent where none did. */
  moved?: MovedParts
}

type RegisteringWith = [series: Series, reference: number, settings: FuseSettings, stopwatch: Stopwatch, progress: Progress, kernels: Kernels]

/**
 * Registers a series. Where dust is found it is done again without it: specks, which lie still, hold the picture back. What they
 * take away is told from the better registration then.
 */
export async function registerSeries(...[series, reference, settings, ...rest]: RegisteringWith): Promise<Registered> {
  if (!settings.register) return { registration: unmoved(series.frames.length, reference) }
  const [, , kernels] = rest
  const finder = settings.dust === 'off' ? undefined : new DustFinder(kernels)
  const first = await registerOnce({ look: finder }, series, reference, settings, ...rest)
  if (!first.dust || first.dust.specks.length === 0) return first
  const second = await registerOnce({ known: first.dust }, series, reference, settings, ...rest)
  const found = rest[0].timeNow('register', () => finder!.finish(dustMotions(second.registration), series.facts.width, first.dust!.unhalved_px))
  return { ...second, dust: found.specks.length < first.dust.specks.length ? first.dust : found }
}

/** Some two dozen frames tell where dust lies; more take time. */
const everyOf = (count: number) => Math.ceil(count / DUST_FRAMES)

/** The motions of the frames that dust is looked for in. */
const dustMotions = ({ motions, lost }: SeriesRegistration) =>
  motions.map((motion, k) => (lost.includes(k) ? undefined : motion)).filter((_, k) => k % everyOf(motions.length) === 0)

/** Registers a series once: looking for dust, or without what is known of it. */
async function registerOnce(
  dust: { look?: DustFinder; known?: FoundDust },
  ...[series, reference, settings, ...rest]: RegisteringWith
): Promise<Registered> {
  const { frames, facts } = series
  const [stopwatch, progress, kernels] = rest
  const registrar = new SeriesRegistrar(facts.width, new PairRegistrar(kernels), settings.localWarp)
  const preparer = new Preparer(kernels)
  const small = new SmallLuma(kernels)
  const moving = settings.moving === 'blend' ? undefined : new MovingFinder(facts, kernels)
  const movingWidth_px = lookedAt_px(frames.length)
  let index = 0
  let lookedAt: number | undefined
  for await (const { samples, width, height } of stopwatch.timeEach(
    'decode',
    readInGroups(frames, ({ file, name }) => readSamples(file, REGISTRATION_WIDTH_px, name)),
  )) {
    lookedAt = width
    progress({ stage: 'register', frame: index + 1, of: frames.length, file: frames[index++].name })
    stopwatch.timeNow('register', () => {
      if (dust.known) withoutDust(samples, width, height, dust.known)
      registrar.add(preparer.fromSamples(samples, width, height))
      const forDust = dust.look && (index - 1) % everyOf(frames.length) === 0
      if (!forDust && !moving) return
      const luma = small.of(samples, width, height, DUST_WIDTH_px)
      if (forDust) dust.look!.add(luma)
      moving?.add(narrowed(luma, movingWidth_px))
    })
  }
  return stopwatch.timeNow('register', () => {
    const registration = registrar.finish(reference)
    const found =
      moving && frames.length - registration.lost.length > 1 ? moving.finish(registration, settings.moving === 'one' ? 'one' : 'auto') : undefined
    const moved = found?.parts && withChosen(found.parts, series, settings, registration.lost)
    const bends = moved ? registration.bends?.map((bend) => bend && calmed(bend, moved, facts)) : registration.bends
    return {
      registration: { ...registration, ...(bends && { bends }), ...(found && { stirred: found.stirred }) },
      dust: dust.look?.finish(dustMotions(registration), facts.width, lookedAt),
      moved,
    }
  })
}

/** Parts that moved, shown from other frames where the settings say so. */
function withChosen(found: MovedParts, { frames, facts }: Series, { moments = [] }: FuseSettings, lost: number[]): MovedParts {
  const named = moments.map(({ x, y, frame }) => {
    const index = frames.findIndex(({ name }) => name === frame)
    if (index < 0 || lost.includes(index)) throw refusal('series.noMoment', { name: frame })
    return { x, y, frame: index }
  })
  return named.length > 0 ? withMoments(found, named, facts) : found
}

function unmoved(count: number, reference: number): SeriesRegistration {
  const all = <T>(value: T): T[] => Array.from({ length: count }, () => value)
  return { lost: [], reference, motions: all(IDENTITY), gains: all(1), correlations: all(1), stirred: all(0), scaleGaps: all(undefined) }
}
