import { SimulatedSeries, type Fault, type SeriesRequest } from '@/core/simulate'
import { Survey, type SurveyReport } from '@/core/survey'

/**
 * How well the survey finds what went wrong: simulated runs of every scene, by ring and by rail, and of landscapes in six
 * frames, clean and with one fault each, at random places and seeds. Of a run whose ends were cut the scene's own depth
 * tells whether much lies beyond. `npm run bench:survey -- 200` prints the share found and the false alarms.
 */
const [runs = '200', first = '1', every = '1', only] = process.argv.slice(2)

interface SceneSetup {
  name: string
  scene: string
  focalLength_mm: number
  magnification: number
  fNumber: number
  /** Planes of focus, from the near edge. */
  positions_mm: number[]
  /** Few, thick slices to far away. */
  landscape?: boolean
}

/** Where the near edge lies, from the lens, in scenes that reach far away. */
const NEAR_EDGE_mm = 550
const evenly = (from_mm: number, stride_mm: number, count: number) => Array.from({ length: count }, (_, k) => from_mm + k * stride_mm)
/** Even in one over the distance, as slices of a range are. */
const byDistance = (near_mm: number, far_mm: number, count: number) =>
  evenly(1 / near_mm, (1 / far_mm - 1 / near_mm) / (count - 1), count).map((inverse) => 1 / inverse - NEAR_EDGE_mm)

const close = { focalLength_mm: 100, magnification: 1, fNumber: 5.6 }
const wide = { scene: 'garden', focalLength_mm: 24, magnification: 0.025, landscape: true }
const SCENES: SceneSetup[] = [
  { ...close, name: 'fossil', scene: 'fossil', positions_mm: evenly(-1, 0.85, 14) },
  { ...close, name: 'nib', scene: 'nib', magnification: 0.5, positions_mm: evenly(-2, 2.8, 15) },
  { ...close, name: 'bristles', scene: 'bristles', fNumber: 4, positions_mm: evenly(-1, 0.75, 14) },
  { ...wide, name: 'garden, 9 frames', fNumber: 1.4, positions_mm: byDistance(540, 4000, 9) },
  { ...wide, name: 'landscape, 6 frames', fNumber: 2.8, positions_mm: byDistance(540, 50_000, 6) },
  { ...wide, name: 'landscape, open', fNumber: 2, positions_mm: byDistance(540, 50_000, 6) },
]

const file = (index: number) => `frame_${String(index + 1).padStart(3, '0')}.jpg`

/** A fault: what the simulator does, which of its frames are surveyed, and how the survey must name it. */
interface Trouble {
  kind: string
  faults?: Fault[]
  /** Frames left away, as indices. */
  without?: number[]
  /** Absent where only an end is cut: that is judged by the scene's depth. */
  found?: (report: SurveyReport) => boolean
}

const hasGap = ({ coverage }: SurveyReport, ...places: number[]) =>
  coverage.gaps.some(({ after, before }) => places.some((at) => [after, before].includes(file(at))))

/** One frame goes wrong; `frame` is counted from 1. */
const ONE_FRAME: ((frame: number) => Trouble)[] = [
  (frame) => ({
    kind: 'bump',
    faults: [{ kind: 'bump', frame, shift_percent: 3 }],
    found: ({ messages }) => messages.some(({ code, files }) => code === 'moved' && files.includes(file(frame - 1))),
  }),
  (frame) => flawed({ kind: 'noFlash', frame, stops: 2.5 }),
  () => ({
    kind: 'flicker',
    faults: [{ kind: 'flicker', ev: 0.18 }],
    found: ({ messages, frames }) => messages.some(({ code }) => code === 'exposure') || frames.some(({ role }) => role === 'flawed'),
  }),
  (frame) => flawed({ kind: 'shake', frame, length_px: 10 }),
  (frame) => flawed({ kind: 'whiteBalance', frame, red_ev: 0.35, blue_ev: -0.4 }),
  (frame) => ({
    kind: 'divider',
    faults: [{ kind: 'divider', frame }],
    found: (report) => roleOf(report, frame - 1) === 'divider',
  }),
]

const STEPS: ((frame: number) => Trouble)[] = [
  (frame) => ({ kind: 'skippedStep', faults: [{ kind: 'skippedStep', frame }], found: (report) => hasGap(report, frame - 1) }),
  (frame) => ({
    kind: 'repeatedStep',
    faults: [{ kind: 'repeatedStep', frame }],
    found: (report) => [frame - 1, frame - 2].some((at) => roleOf(report, at) === 'idle'),
  }),
]

const flawed = (fault: Fault & { frame: number }): Trouble => ({
  kind: fault.kind,
  faults: [fault],
  found: (report) => roleOf(report, fault.frame - 1) === 'flawed',
})

const range = (from: number, to: number) => Array.from({ length: Math.max(0, to - from) }, (_, k) => from + k)

/** Ends cut, frames missing within, every second left out; `cut` is 2 to 6, in a landscape 2. */
const MISSING: ((count: number, cut: number, frame: number) => Trouble)[] = [
  (_count, cut) => ({ kind: 'nearCut', without: range(0, cut) }),
  (count, cut) => ({ kind: 'farCut', without: range(count - cut, count) }),
  (_count, _cut, frame) => ({ kind: 'twoMissing', without: [frame - 1, frame], found: (report) => hasGap(report, frame - 2, frame + 1) }),
  (count) => ({
    kind: 'thinned',
    without: range(0, count).filter((k) => k % 2 === 1),
    found: ({ messages }) => messages.some(({ code }) => code === 'loose'),
  }),
]

const RUNS_ON = (): Trouble => ({
  kind: 'runsOn',
  faults: [{ kind: 'runsOn', frames: 6 }],
  found: ({ frames }) => frames.at(-1)!.role === 'idle',
})

/** Which troubles befall a scene. Few thick slices tell of single frames no more than that they are there. */
function troublesOf({ landscape, positions_mm: { length } }: SceneSetup, frame: number, cut: number): Trouble[] {
  const missing = MISSING.map((make) => make(length, landscape ? 2 : cut, frame))
  if (landscape && length < 9) return missing
  return [...[...ONE_FRAME, ...STEPS].map((make) => make(frame)), ...missing, ...(landscape ? [] : [RUNS_ON()])]
}

function roleOf({ frames }: SurveyReport, at: number): string | undefined {
  return frames.find((frame) => frame.file === file(at))?.role
}

/** Of a scene's picture, in percent: what lies more than so many steps beyond each end of the planes surveyed. */
function beyond_percent(series: SimulatedSeries, { landscape, positions_mm }: SceneSetup, kept: number[], steps: number) {
  const inSteps = (mm: number) => (landscape ? -1 / (mm + NEAR_EDGE_mm) : mm)
  const places = positions_mm.map(inSteps)
  const step = (places.at(-1)! - places[0]) / (places.length - 1)
  const [nearest, farthest] = [places[kept[0]] - steps * step, places[kept.at(-1)!] + steps * step]
  const depths = series.truthDepth_mm().data
  const share = (counts: (place: number) => boolean) => (100 * depths.filter((mm) => counts(inSteps(mm))).length) / depths.length
  return { near: share((place) => place < nearest), far: share((place) => place > farthest) }
}

/** Of a clean run too the outermost frame adds nothing where the subject begins more than a step beyond the next. */
function isRightlyIdle(said: string, series: SimulatedSeries, scene: SceneSetup): boolean {
  const last = scene.positions_mm.length - 1
  if (said === `${file(0)} idle beyond`) return beyond_percent(series, scene, [1, last], -1).near < 1
  return said === `${file(last)} idle beyond` && beyond_percent(series, scene, [0, last - 1], -1).far < 1
}

/** Much beyond an end must be found, hardly anything must not; between them either is right. */
const MUCH = { steps: 2, percent: 25 }
const HARDLY = { steps: 1, percent: 5 }

/** Water runs and grass sways there in every run, which the survey is right to say. */
const isWind = ({ landscape }: SceneSetup, code: string) => landscape === true && code === 'stirred'

const found = new Map<string, [number, number]>()
const count = (kind: string, hit: boolean) => {
  const [yes, all] = found.get(kind) ?? [0, 0]
  found.set(kind, [yes + (hit ? 1 : 0), all + 1])
}
const alarms: string[] = []
let clean = 0
for (let run = Number(first); run <= Number(runs); run += Number(every)) {
  const scene = SCENES[(run + Math.floor(run / SCENES.length)) % SCENES.length]
  if (only && !scene.name.startsWith(only)) continue
  const mover = run % 2 === 0 || scene.landscape ? 'ring' : 'rail'
  const planes = scene.positions_mm.length
  const frame = planes < 9 ? 3 + (run % 2) : 4 + ((run * 5) % (planes - 7))
  // A quarter of the runs is clean.
  const troubles = troublesOf(scene, frame, 2 + ((run * 3) % 5))
  const trouble = run % 4 === 3 ? undefined : troubles[(run * 7 + (run >> 4)) % troubles.length]
  const request: SeriesRequest = {
    scene: scene.scene,
    seed: 1000 + run,
    camera: { sensorWidth_mm: 36, width_px: 640, height_px: 426, ...scene, mover },
    positions_mm: scene.positions_mm,
    unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults: trouble?.faults ?? [],
  }
  const series = new SimulatedSeries(request)
  const survey = new Survey(mover)
  const kept = range(0, series.count).filter((k) => !trouble?.without?.includes(k))
  for (const k of kept) survey.add(file(k), series.shoot(k).picture)
  const whole = survey.finish()
  const report = { ...whole, messages: whole.messages.filter(({ code }) => !isWind(scene, code)) }
  const said = [
    ...report.messages.map(({ code }) => code),
    ...report.frames.filter(({ role }) => role !== 'use').map(({ file: name, role, reasonCode }) => `${name} ${role} ${reasonCode}`),
  ]
  const name = `run ${run} ${scene.name} ${mover}`
  const miss = (what: string) => console.log(`missed: ${name} ${what} at ${frame}; said: ${said.join(', ') || 'nothing'}`)
  // What lies beyond the ends follows from the scene's own depth, whatever was cut.
  const endsMoved = trouble?.faults?.some(({ kind }) => kind === 'runsOn' || kind === 'divider' || kind === 'skippedStep' || kind === 'repeatedStep')
  const ends = (['near', 'far'] as const).map((end) => {
    if (endsMoved) return { end, expected: undefined, short: report.coverage[`${end}End`] === 'short' }
    const much = beyond_percent(series, scene, kept, MUCH.steps)[end] > MUCH.percent
    const hardly = beyond_percent(series, scene, kept, HARDLY.steps)[end] < HARDLY.percent
    return { end, expected: much ? true : hardly ? false : undefined, short: report.coverage[`${end}End`] === 'short' }
  })
  for (const { end, expected, short } of ends) {
    if (expected === true) count(`${end} end`, short)
    if (expected === true && !short) miss(`${end} end`)
    if (expected === false && short) alarms.push(`${name}: ${end} end`)
  }
  if (!trouble) {
    clean++
    const rest = said.filter((word) => !word.endsWith('-short') && !isRightlyIdle(word, series, scene))
    if (rest.length > 0) alarms.push(`${name}: ${rest.join(', ')}`)
  } else if (trouble.found) {
    const hit = trouble.found(report)
    count(trouble.kind, hit)
    if (!hit) miss(trouble.kind)
  }
}
for (const [kind, [yes, all]] of [...found].sort()) console.log(`${kind.padEnd(14)} ${yes} of ${all}`)
const [hits, total] = [...found.values()].reduce(([a, b], [yes, all]) => [a + yes, b + all], [0, 0])
for (const alarm of alarms) console.log(`false alarm: ${alarm}`)
console.log(`found ${hits} of ${total} (${((100 * hits) / Math.max(1, total)).toFixed(1)} %); ${alarms.length} false alarms, ${clean} clean runs`)
