import type { Rail } from '../kit'
import { moverKindOf } from './sheetMovers'
import type { Gear } from './gear'
import type { PlanSheet } from './sheet'

/** A filter unscrewed, set aside, and screwed on again. */
const FILTER_s = 20
/** A turn of a dial, and finding the mark. */
const TURN_s = 1.5
const FIND_s = 2
/** Setting a focus ring by its scale or by eye, and a rail by its ruler. */
const RING_s = 6
const RULER_s = 8
/** A motor’s start and stop, and a feed where the kit gives none. */
const START_s = 0.5
const FEED_mmPerMin = 60

/** What the hand, or the drive, needs for each frame, in seconds: as the sheet says, else what is usual with this mover. */
export function handTimes(sheet: PlanSheet, { rail }: Gear, stride_mm: number): { move_s: number; filter_s: number } {
  const filtered = (sheet.filter_stops ?? 0) > 0 && sheet.kind === 'range'
  return { move_s: sheet.move_s ?? usualMove_s(sheet, rail, stride_mm), filter_s: filtered ? (sheet.filter_s ?? FILTER_s) : 0 }
}

function usualMove_s(sheet: PlanSheet, rail: Rail | undefined, stride_mm: number): number {
  if (sheet.kind === 'depth' && sheet.mover === 'bracketing') return 0
  if (moverKindOf(sheet) !== 'rail' || !rail) return RING_s
  switch (rail.kind) {
    case 'dial':
      return FIND_s + TURN_s * (stride_mm / rail.pitch_mm!)
    case 'ruler':
      return RULER_s
    case 'motor':
      return START_s + (stride_mm / (rail.feed_mmPerMin ?? FEED_mmPerMin)) * 60
  }
}
