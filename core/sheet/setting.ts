import type { PlanSheet } from './sheet'
import { magnificationOf } from './ringSteps'
import type { SheetPlan } from './sheetPlan'

/** What moved the focus from frame to frame, as it is read off the thing that moves it: what a measured stride is kept for. */
export type MoverSetting =
  | { kind: 'step'; step: number }
  /** By a rail's dial or its motor's steps, whatever runs say that it really goes. */
  | { kind: 'rail'; rail: string; dial_mm: number }
  /** On average, where the lens is focused in the middle of the subject. */
  | { kind: 'click'; clicks: number; magnification: number }

/** Undefined where it is set by eye: by a ruler, or a ring that nothing is known of. */
export function settingOf({ step, gear, plan, request }: SheetPlan, sheet: PlanSheet): MoverSetting | undefined {
  if (step) return { kind: 'step', step: step.step }
  const { rail, known, perClick, lens } = gear
  if (plan.frames.length < 2 || request.subject.kind !== 'depth') return undefined
  if (rail) return rail.pitch_mm === undefined ? undefined : { kind: 'rail', rail: rail.name, dial_mm: plan.stride_mm / (known?.value ?? 1) }
  if (!perClick || sheet.mover !== 'ring') return undefined
  const [near, far] = [plan.frames[0], plan.frames.at(-1)!].map((frame) => magnificationOf(frame, lens.focalLength_mm, plan.workingDistance_mm))
  // The way from one to the other is f · Δm / (m · m').
  return { kind: 'click', clicks: (near - far) / perClick / (plan.frames.length - 1), magnification: Math.sqrt(near * far) }
}
