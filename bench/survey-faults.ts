import { SimulatedSeries, type Fault, type SeriesRequest } from '@/core/simulate'
import { Survey, type SurveyReport } from '@/core/survey'

/**
 * How well the survey finds what went wrong: simulated runs of every scene, by ring and by rail, clean and with one fault
 * each, at random places and seeds. `npm run bench:survey -- 200` prints the share found and the false alarms.
 */
const [runs = '200', first = '1', every = '1', only] = process.argv.slice(2)

interface Scene {
  name: string
  focalLength_mm: number
  magnification: number
  fNumber: number
  count: number
  /** Plane of focus of frame k, from the near edge. */
  position_mm: (k: number) => number
}

const evenly = (from_mm: number, stride_mm: number) => (k: number) => from_mm + k * stride_mm
/** Even in one over the distance, as slices of a range are; the near edge lies 550 mm from the lens. */
const byDistance = (near_mm: number, far_mm: number, count: number) => (k: number) =>
  1 / (1 / near_mm + (k / (count - 1)) * (1 / far_mm - 1 / near_mm)) - 550

const SCENES: Scene[] = [
  { name: 'fossil', focalLength_mm: 100, magnification: 1, fNumber: 5.6, count: 14, position_mm: evenly(-1, 0.85) },
  { name: 'nib', focalLength_mm: 100, magnification: 0.5, fNumber: 5.6, count: 15, position_mm: evenly(-2, 2.8) },
  { name: 'bristles', focalLength_mm: 100, magnification: 1, fNumber: 4, count: 14, position_mm: evenly(-1, 0.75) },
  { name: 'garden', focalLength_mm: 24, magnification: 0.025, fNumber: 1.4, count: 9, position_mm: byDistance(540, 4000, 9) },
]

const file = (index: number) => `frame_${String(index + 1).padStart(3, '0')}.jpg`

/** Each fault: how it is made for a frame, and how the survey must name it. `at` is the frame's place in the run. */
const FAULTS: { make: (frame: number) => Fault; found: (report: SurveyReport, at: number) => boolean }[] = [
  {
    make: (frame) => ({ kind: 'bump', frame, shift_percent: 3 }),
    found: ({ messages }, at) => messages.some(({ code, files }) => code === 'moved' && files.includes(file(at))),
  },
  { make: (frame) => ({ kind: 'noFlash', frame, stops: 2.5 }), found: (report, at) => roleOf(report, at) === 'flawed' },
  {
    make: () => ({ kind: 'flicker', ev: 0.18 }),
    found: ({ messages, frames }) => messages.some(({ code }) => code === 'exposure') || frames.some(({ role }) => role === 'flawed'),
  },
  {
    make: (frame) => ({ kind: 'skippedStep', frame }),
    found: ({ coverage }, at) => coverage.gaps.some(({ after, before }) => [after, before].includes(file(at))),
  },
  { make: (frame) => ({ kind: 'repeatedStep', frame }), found: (report, at) => roleOf(report, at) === 'idle' || roleOf(report, at - 1) === 'idle' },
  { make: (frame) => ({ kind: 'shake', frame, length_px: 6 }), found: (report, at) => roleOf(report, at) === 'flawed' },
  { make: (frame) => ({ kind: 'whiteBalance', frame, red_ev: 0.35, blue_ev: -0.4 }), found: (report, at) => roleOf(report, at) === 'flawed' },
  { make: (frame) => ({ kind: 'divider', frame }), found: (report, at) => roleOf(report, at) === 'divider' },
  { make: () => ({ kind: 'startShort', frames: 6 }), found: ({ coverage }) => coverage.nearEnd === 'short' },
  { make: () => ({ kind: 'endShort', frames: 6 }), found: ({ coverage }) => coverage.farEnd === 'short' },
  { make: () => ({ kind: 'runsOn', frames: 6 }), found: ({ frames }) => frames.at(-1)!.role === 'idle' },
]

function roleOf({ frames }: SurveyReport, at: number): string | undefined {
  return frames.find((frame) => frame.file === file(at))?.role
}

const isClean = ({ frames, messages }: SurveyReport) => messages.length === 0 && frames.every(({ role }) => role === 'use')

/** Of a range to far away the pictures cannot tell where it ends: there the plan is asked (`againstPlan`, which has tests of its own). */
function faultOf(run: number, { name }: Scene) {
  const told = name === 'garden' ? FAULTS.slice(0, -3) : FAULTS
  return told[(run * 7 + (run >> 4)) % told.length]
}

/** Water runs and grass sways there in every run, which the survey is right to say. */
const isWind = ({ name }: Scene, code: string) => name === 'garden' && code === 'stirred'
const isEndOfRange = ({ name }: Scene, code: string) => name === 'garden' && code.endsWith('-short')

const found = new Map<string, [number, number]>()
const alarms: string[] = []
let clean = 0
for (let run = Number(first); run <= Number(runs); run += Number(every)) {
  const scene = SCENES[(run + (run >> 2)) % SCENES.length]
  if (only && scene.name !== only) continue
  const mover = run % 2 === 0 || scene.name === 'garden' ? 'ring' : 'rail'
  // A quarter of the runs is clean.
  const fault = run % 4 === 3 ? undefined : faultOf(run, scene)
  const frame = 4 + ((run * 5) % (scene.count - 7))
  const made = fault?.make(frame)
  const request: SeriesRequest = {
    scene: scene.name,
    seed: 1000 + run,
    camera: {
      sensorWidth_mm: 36,
      width_px: 360,
      height_px: 240,
      focalLength_mm: scene.focalLength_mm,
      fNumber: scene.fNumber,
      magnification: scene.magnification,
      mover,
    },
    positions_mm: Array.from({ length: scene.count }, (_, k) => scene.position_mm(k)),
    unsteadiness: { shift_px: 0.4, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults: made ? [made] : [],
  }
  const series = new SimulatedSeries(request)
  const survey = new Survey(mover)
  for (let k = 0; k < series.count; k++) survey.add(file(k), series.shoot(k).picture)
  const whole = survey.finish()
  const report = { ...whole, messages: whole.messages.filter(({ code }) => !isEndOfRange(scene, code) && !isWind(scene, code)) }
  const said = [
    ...report.messages.map(({ code }) => code),
    ...report.frames.filter(({ role }) => role !== 'use').map(({ file: name, role }) => `${name} ${role}`),
  ]
  if (!made || !fault) {
    clean++
    if (!isClean(report)) alarms.push(`run ${run} ${scene.name} ${mover}: ${said.join(', ')}`)
    continue
  }
  const [yes, all] = found.get(made.kind) ?? [0, 0]
  const hit = fault.found(report, frame - 1)
  found.set(made.kind, [yes + (hit ? 1 : 0), all + 1])
  if (!hit) console.log(`missed: run ${run} ${scene.name} ${mover} ${made.kind} at ${frame}; said: ${said.join(', ') || 'nothing'}`)
}
for (const [kind, [yes, all]] of [...found].sort()) console.log(`${kind.padEnd(14)} ${yes} of ${all}`)
const [hits, total] = [...found.values()].reduce(([a, b], [yes, all]) => [a + yes, b + all], [0, 0])
for (const alarm of alarms) console.log(`false alarm: ${alarm}`)
console.log(
  `found ${hits} of ${total} (${((100 * hits) / Math.max(1, total)).toFixed(1)} %); false alarms in ${alarms.length} of ${clean} clean runs`,
)
