import type { Rail } from '../kit'
import { scaleDistance_mm } from '../optics'
import {
  chainedParts,
  dialAt,
  effectiveFocalLength_mm,
  microstepsAt,
  serveTargets,
  type LensOptics,
  type PlannedFrame,
  type PlanRequest,
  type Target,
} from '../plan'
import { inchesText, lengthText, placeText, type UnitSystem } from '../units'
import { bodySeriesOf } from './bracketing'
import { marksOf_mm, scaleReading } from './lensScale'
import { magnificationOf, ringStepsOf } from './ringSteps'
import { targetsOf, type PlanSheet } from './sheet'
import type { SheetPlan } from './sheetPlan'

/** Every frame in shooting order, in the terms of what moves the focus. */
export interface Positions {
  columns: string[]
  rows: { /** 1-based, near to far, as in the plan. */ index: number; cells: string[] }[]
}

type Column = { title: string; of: (frame: PlannedFrame, shot: number) => string }

/** Frames of a planned sheet in shooting order. */
export function shootingOrder({ plan }: SheetPlan, sheet: PlanSheet): PlannedFrame[] {
  return sheet.direction === 'far' ? [...plan.frames].reverse() : plan.frames
}

/** How any frame reads in the terms of what moves the focus, whether planned or taken elsewhere. */
export interface Readings {
  columns: string[]
  /** `shot` counts from 0 in shooting order. */
  of(frame: PlannedFrame, shot: number): string[]
}

export function readingsOf(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem = 'metric'): Readings {
  const [first] = shootingOrder(planned, sheet)
  const columns = planned.plan.hyperfocal_mm === undefined ? depthColumns(planned, sheet, first, system) : rangeColumns(planned, sheet, system)
  return { columns: columns.map(({ title }) => title), of: (frame, shot) => columns.map(({ of }) => of(frame, shot)) }
}

/** The positions of a planned sheet: where the mover goes, what is in focus and what it holds sharp; one line a press where the body moves the focus. */
export function positionsOf(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem = 'metric'): Positions {
  const body = bodySeriesOf(planned, sheet)
  if (body) {
    const rows = body.parts.map(({ frames, begin }, k) => ({ index: k + 1, cells: [String(frames), begin] }))
    return { columns: ['Frames at one press', 'Begin at'], rows }
  }
  const { columns, of } = readingsOf(planned, sheet, system)
  return { columns, rows: shootingOrder(planned, sheet).map((frame, shot) => ({ index: frame.index, cells: of(frame, shot) })) }
}

function rangeColumns(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem): Column[] {
  const { request, gear } = planned
  const lens = request.optics as LensOptics
  // Everything is told from where the plan is measured.
  const from = (mm: number) => lengthText(sheet.from === 'sensor' ? scaleDistance_mm(mm, lens.focalLength_mm) : mm, system)
  const place = `from the ${sheet.from}`
  const marks = marksOf_mm(gear.lens.scaleMarks ?? '')
  const setting: Column =
    marks.length > 0
      ? { title: 'Focus, on the lens scale', of: ({ scaleDistance_mm: mm }) => scaleReading(mm!, marks, system) }
      : { title: `Focus on something ${place}`, of: ({ focusDistance_mm: mm }) => from(mm!) }
  const columns: Column[] = [
    setting,
    ...(marks.length > 0 ? [] : ringColumns(planned, sheet)),
    ...(marks.length > 0 ? [{ title: place, of: ({ focusDistance_mm: mm }: PlannedFrame) => from(mm!) }] : []),
    { title: 'Sharp from', of: ({ near_mm }) => from(near_mm) },
    { title: 'to', of: ({ far_mm }) => from(far_mm) },
  ]
  const targets = targetsOf(sheet, lens.focalLength_mm)
  if (targets.length > 0) columns.push({ title: 'For', of: (frame) => targetsFor(planned, targets, frame).join(', ') })
  return columns
}

/** Targets that a frame is for: as planned, or within what it holds sharp where it was taken elsewhere. */
function targetsFor({ plan, request }: SheetPlan, targets: Target[], frame: PlannedFrame): string[] {
  const planned = plan.frames[frame.index - 1]
  const asPlanned = planned !== undefined && Math.abs(1 / planned.focusDistance_mm! - 1 / frame.focusDistance_mm!) < 1e-9
  const sharp = asPlanned
    ? serveTargets(plan, request, targets).filter((target) => target.sharp && target.frame === frame.index)
    : targets.filter(({ distance_mm }) => distance_mm >= frame.near_mm && distance_mm <= frame.far_mm)
  return sharp.map(({ name }) => name)
}

function depthColumns(planned: SheetPlan, sheet: PlanSheet, first: PlannedFrame, system: UnitSystem): Column[] {
  const { request, plan, step } = planned
  const { rail, body, lens } = planned.gear
  const place = (mm: number) => placeText(mm, system)
  const travel = ({ travel_mm }: PlannedFrame) => travel_mm! - first.travel_mm!
  const columns: Column[] = []
  if (request.mover.kind === 'rail') columns.push(...railColumns(rail, travel, sheet.railStart_mm ?? 0, system))
  else if (step) columns.push(partColumn(plan.frameCount, body.bracketMost ?? Infinity))
  else {
    const scale = lensScale(request, plan.workingDistance_mm)
    const marks = marksOf_mm(lens.scaleMarks ?? '')
    const reading = (frame: PlannedFrame) => scaleReading(scale!(frame.position_mm!), marks, system)
    // Marks that neighbouring frames cannot be told apart by are of no use.
    if (scale && marks.length > 0 && plan.frames.every((frame, k) => k === 0 || reading(frame) !== reading(plan.frames[k - 1])))
      columns.push({ title: 'Focus, on the lens scale', of: reading })
    else if (scale) columns.push(...ringColumns(planned, sheet))
  }
  return [
    ...columns,
    { title: 'Focus, from the near edge', of: ({ position_mm }) => place(position_mm!) },
    { title: 'Sharp from', of: ({ near_mm }) => place(near_mm) },
    { title: 'to', of: ({ far_mm }) => place(far_mm) },
  ]
}

/** How a ring without a usable scale goes on from the first frame, where it is known how it turns. */
function ringColumns(planned: SheetPlan, sheet: PlanSheet): Column[] {
  const { gear, plan } = planned
  const ring = ringStepsOf(gear)
  if (!ring) return []
  const order = shootingOrder(planned, sheet)
  const at = (frame: PlannedFrame) => magnificationOf(frame, gear.lens.focalLength_mm, plan.workingDistance_mm)
  // A frame that was not planned comes after none.
  const before = (frame: PlannedFrame) => order[order.indexOf(frame) - 1] as PlannedFrame | undefined
  const of = (frame: PlannedFrame) => {
    const last = before(frame)
    return ring.reading(at(order[0]), at(frame), last && at(last))
  }
  return [{ title: ring.title, of }]
}

function railColumns(rail: Rail | undefined, travel: (frame: PlannedFrame) => number, start_mm: number, system: UnitSystem): Column[] {
  const moved: Column = {
    title: 'Rail, from the first frame',
    of: (frame) => (system === 'inches' ? placeText(travel(frame), system) : `${plain(travel(frame).toFixed(3))} mm`),
  }
  if (rail?.kind === 'dial') {
    const screw = { pitch_mm: rail.pitch_mm!, marksPerTurn: rail.marksPerTurn!, length_mm: rail.length_mm }
    return [{ title: 'Dial', of: (frame) => dialText(Math.sign(travel(frame)), dialAt(Math.abs(travel(frame)), screw)) }, moved]
  }
  if (rail?.kind === 'motor') {
    const motor = { pitch_mm: rail.pitch_mm!, stepsPerTurn: rail.stepsPerTurn!, microsteps: rail.microsteps!, length_mm: rail.length_mm }
    return [moved, { title: 'Microsteps', of: (frame) => plain(String(microstepsAt(travel(frame), motor))) }]
  }
  if (rail?.kind === 'ruler') {
    const reading = (frame: PlannedFrame) => start_mm + travel(frame)
    return [{ title: 'Ruler', of: (frame) => (system === 'inches' ? inchesText(reading(frame)) : placeText(reading(frame))) }]
  }
  return [moved]
}

/** Where a body's bracketing is chained, which part a frame belongs to; a part begins on the last frame of the one before. */
function partColumn(frameCount: number, most: number): Column {
  const parts = chainedParts(frameCount, most)
  return {
    title: parts.length > 1 ? 'Part and frame' : 'Frame of the bracketing',
    of: (_, shot) => {
      let part = 0
      let before = 0
      while (shot - before >= parts[part] && part < parts.length - 1) before += parts[part++] - 1
      return parts.length > 1 ? `part ${part + 1}, ${shot - before + 1}` : String(shot + 1)
    },
  }
}

/** What the lens's own scale shows for a plane of the subject; nothing where tubes or attachments make it meaningless. */
function lensScale({ optics }: PlanRequest, workingDistance_mm: number): ((position_mm: number) => number) | undefined {
  if (optics.kind !== 'lens' || optics.attachment) return undefined
  const f = effectiveFocalLength_mm(optics, optics.magnification!)
  return (position_mm) => scaleDistance_mm(workingDistance_mm + position_mm, f)
}

function dialText(sign: number, { turns, marks }: { turns: number; marks: number }): string {
  return `${sign < 0 ? 'back ' : ''}turn ${turns}, mark ${marks}`
}

const plain = (text: string) => text.replace('-', '−')
