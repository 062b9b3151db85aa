import { hyperfocal_mm, defocusAllowance_mm, diffractionBlur_mm } from '../optics'
import { rangeBlur_mm, type Target } from '../plan'
import { gaussian, randomStream, type SeriesRequest } from '../simulate'
import { percentOf, type Exercise, type Level } from './exercise'
import { PICTURE } from './scenes'
import { say } from './words'

export interface FiveMinutesTask {
  targets: Target[]
  lens: { kind: 'lens'; focalLength_mm: number; fNumber: number; pupilRatio: number }
  coc_mm: number
  /** The right exposure with the filter on, at the beginning; it doubles each `halving_s`. */
  exposure_s: number
  halving_s: number
  filter_stops: number
  /** The view through the lens, focused on each target in turn, then on nothing in particular. */
  request: SeriesRequest
  seed: number
}

export interface FiveMinutesAnswer {
  taken: EveningFrame[]
  clock_s: number
}

/** A frame: what it was focused at, and by how many stops its light was off. */
export interface EveningFrame {
  focus_mm: number
  off_stops: number
}

/** The light is gone after so long. */
export const LIGHT_s = 300
const LENS_mm = 24
/** What stands in the simulated garden, and how far from the lens. */
const PLACES: Target[] = [
  { name: 'the trough', distance_mm: 650 },
  { name: 'the first wall', distance_mm: 1250 },
  { name: 'the second wall', distance_mm: 2400 },
  { name: 'the third wall', distance_mm: 5200 },
  { name: 'the gate', distance_mm: 9000 },
  { name: 'the hill', distance_mm: 60_000 },
]
const COUNTS: Record<Level, number[]> = { 1: [0, 2, 5], 2: [0, 1, 3, 5], 3: [0, 1, 2, 4, 5] }
const HALVINGS_s: Record<Level, number> = { 1: 240, 2: 130, 3: 80 }
/** The simulated garden begins so far from the lens. */
const GARDEN_mm = 550

/** Targets at distances, light fading, the filter off to focus and on to expose. */
export const fiveMinutes: Exercise<FiveMinutesTask, FiveMinutesAnswer> = {
  title: 'Landscape in five minutes',
  aim: 'Get everything sharp from near to far before the light is gone: filter off to focus, on to expose, a longer exposure as it fades.',
  caution: 'Outside, look where you step: an eye on the clock is no eye on the bank.',
  pose(seed, level) {
    const random = randomStream(seed)
    const targets = COUNTS[level].map((k) => PLACES[k])
    const fNumber = [5.6, 8, 8, 11][Math.floor(random() * 4)]
    const places = [...targets.map(({ distance_mm }) => distance_mm), 0.75 * targets[0].distance_mm]
    // The simulated camera frames what the middle one of its planes is focused on.
    const framed_mm = places[Math.ceil(places.length / 2) - 1]
    return {
      targets,
      lens: { kind: 'lens', focalLength_mm: LENS_mm, fNumber, pupilRatio: 1 },
      coc_mm: 0.02,
      exposure_s: 8,
      halving_s: HALVINGS_s[level],
      filter_stops: 6,
      request: {
        scene: 'garden',
        seed,
        camera: {
          sensorWidth_mm: 36,
          ...PICTURE,
          focalLength_mm: LENS_mm,
          fNumber: 2,
          magnification: LENS_mm / (framed_mm - LENS_mm),
          mover: 'ring',
        },
        positions_mm: places.map((distance_mm) => distance_mm - GARDEN_mm),
        unsteadiness: { shift_px: 0.3, rotation_deg: 0.01, exposure_ev: 0 },
        fullWell: 30_000,
      },
      seed,
    }
  },
  mark(task, { taken, clock_s }) {
    const good = taken.filter(({ off_stops }) => Math.abs(off_stops) <= ALLOWED_stops)
    const soft = task.targets.filter(({ distance_mm }) => !good.some(({ focus_mm }) => blurAt(task, focus_mm, distance_mm) <= task.coc_mm))
    const spare = Math.max(0, taken.length - fewestFrames(task) - 1)
    const late_s = Math.max(0, clock_s - LIGHT_s)
    return {
      percent: percentOf(100 - (100 * soft.length) / task.targets.length - 5 * spare - 8 * (taken.length - good.length) - late_s / 3),
      said: [
        soft.length === 0
          ? say('practice.evening.all', { count: task.targets.length })
          : say('practice.evening.soft', { names: soft.map(({ name }) => name) }),
        ...(good.length < taken.length ? [say('practice.evening.exposure', { count: taken.length - good.length })] : []),
        ...(spare > 0 ? [say('practice.evening.spare', { spare })] : []),
        say('practice.evening.fewest', { frames: fewestFrames(task) }),
        late_s > 0 ? say('practice.evening.late', { late_s }) : say('practice.evening.time', { left_s: LIGHT_s - clock_s }),
      ],
    }
  },
}

/** What a frame may be off by in its light, in stops, and still match the others. */
const ALLOWED_stops = 0.5

const blurAt = ({ lens }: FiveMinutesTask, focus_mm: number, distance_mm: number) =>
  rangeBlur_mm({ diffraction: true, wavelength_nm: 550 }, lens, focus_mm, distance_mm)

/** How few frames hold every target, each of them focused on one. */
export function fewestFrames(task: FiveMinutesTask): number {
  const { targets, coc_mm } = task
  let held = 0
  let frames = 0
  // The nearest that is not held yet is held by the farthest focus that still does; focus is set by eye on targets.
  while (held < targets.length) {
    const far = Math.max(...targets.flatMap((focus, k) => (blurAt(task, focus.distance_mm, targets[held].distance_mm) <= coc_mm ? [k] : [])))
    frames++
    const before = held
    while (held < targets.length && blurAt(task, targets[far].distance_mm, targets[held].distance_mm) <= coc_mm) held++
    if (held === before) held++
  }
  return frames
}

/** The hyperfocal distance as the lens stands, in mm: what is to be known by heart. */
export function hyperfocalOf({ lens, coc_mm }: FiveMinutesTask): number {
  return hyperfocal_mm(lens.focalLength_mm, lens.fNumber, defocusAllowance_mm(coc_mm, diffractionBlur_mm(lens.fNumber)))
}

/** What each thing one does takes, in s: by hand, in the dusk. */
const TAKES_s = { focus: 8, filter: 10, dial: 3, press: 2 }
/** With the filter on one sees next to nothing: focus lands off by a factor of this spread. */
const BLIND = 0.5

/** An evening as it goes: a camera, a filter, and light that fades. */
export class Evening {
  clock_s = 0
  filterOn = false
  focus_mm: number
  /** What the dial of the exposure says. */
  exposure_s: number
  readonly taken: EveningFrame[] = []
  private readonly random: () => number

  constructor(private readonly task: FiveMinutesTask) {
    this.random = randomStream(task.seed + 31)
    this.focus_mm = task.targets[0].distance_mm * 0.8
    this.exposure_s = task.exposure_s
  }

  /** The right exposure just now, as the meter tells it, with the filter as it is. */
  get metered_s(): number {
    const open_s = this.task.exposure_s * 2 ** (this.clock_s / this.task.halving_s)
    return this.filterOn ? open_s : open_s / 2 ** this.task.filter_stops
  }

  /** Focuses on a target by eye. @returns whether one could see it. */
  focusOn(index: number): boolean {
    this.clock_s += TAKES_s.focus
    const { distance_mm } = this.task.targets[index]
    this.focus_mm = this.filterOn ? distance_mm * 2 ** (gaussian(this.random) * BLIND - BLIND) : distance_mm
    return !this.filterOn
  }

  turnFilter(): void {
    this.clock_s += TAKES_s.filter
    this.filterOn = !this.filterOn
  }

  setExposure(seconds: number): void {
    this.clock_s += TAKES_s.dial
    this.exposure_s = seconds
  }

  press(): void {
    const off_stops = Math.log2(this.exposure_s / this.metered_s)
    this.taken.push({ focus_mm: this.focus_mm, off_stops })
    this.clock_s += TAKES_s.press + this.exposure_s
  }
}
