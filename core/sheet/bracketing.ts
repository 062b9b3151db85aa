import { chainedParts } from '../plan'
import { say } from '../words'
import { significant } from '../units'
import type { PlanSheet } from './sheet'
import type { SheetPlan } from './sheetPlan'

/** A series that the body takes by itself: what to set, and what to do for each press of the shutter. */
export interface BodySeries {
  step: number
  /** Nobody has measured how far this step number moves the focus. */
  guessed: boolean
  /** One a press: how many frames the body takes, and how many of them are new. */
  parts: { frames: number; fresh: number; begin: string }[]
  /** What to do, in order. */
  how: string[]
}

/** More frames than planned where a step number was never measured, so that the far end is not missed. */
const SPARE = 1.5

/** How the body's own bracketing takes a plan; undefined where the focus is moved otherwise. */
export function bodySeriesOf({ plan, step, gear, request }: SheetPlan, sheet: PlanSheet): BodySeries | undefined {
  if (!step) return undefined
  const end = sheet.direction === 'far' ? 'far' : 'near'
  const other = end === 'far' ? 'near' : 'far'
  const guessed = !step.calibrated
  const wanted = guessed ? Math.ceil(plan.frameCount * SPARE) : plan.frameCount
  const sizes = chainedParts(wanted, gear.body.bracketMost ?? Infinity)
  const parts = sizes.map((frames, k) => ({
    frames,
    fresh: k === 0 ? frames : frames - 1,
    begin: k === 0 ? say('bracket.begin', { end }).text : say('bracket.goOn').text,
  }))
  const { settle_s, delay_s } = request.timing
  const how = [
    say('bracket.set', { step: step.step, frames: sizes[0] }),
    say('bracket.focus', { end }),
    say('bracket.press', { wait_s: significant(settle_s + delay_s, 2), again: sizes.length - 1 }),
    ...(guessed ? [say('bracket.unmeasured', { planned: plan.frameCount, other })] : []),
  ]
  return { step: step.step, guessed, parts, how: how.map(({ text }) => text) }
}
