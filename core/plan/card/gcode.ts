import type { Plan } from '../reply'
import { refusal } from '../../words'

export interface RailMotion {
  feed_mmPerMin: number
  settle_s: number
  /** How far the rail runs back before the first frame, so that every position is approached from one side. */
  backlash_mm: number
  /** From the far end towards the camera: positions run below zero. */
  farFirst?: boolean
}

/**
 * Plain G-code (ISO 6983) for a motorised rail: millimetres, absolute positions from the first frame, a dwell to settle,
 * and a pause (M0) in which the frame is taken.
 * @throws Refusal for a plan by distances, which a rail does not shoot.
 */
export function planGcode({ frames, hyperfocal_mm }: Plan, { feed_mmPerMin, settle_s, backlash_mm, farFirst = false }: RailMotion): string {
  if (hyperfocal_mm !== undefined) throw refusal('plan.noRailMoves', undefined, 'subject.kind')
  const dwell = `G4 P${Number(settle_s.toFixed(3))}`
  const lines = [
    'G21 (millimetres)',
    'G90 (absolute positions)',
    'G92 X0 (the first frame is zero)',
    `F${feed_mmPerMin}`,
    `G1 X${number(farFirst ? backlash_mm : -backlash_mm)} (take up the backlash)`,
  ]
  const shots = farFirst ? [...frames].reverse() : frames
  for (const { index, travel_mm } of shots)
    lines.push(`G1 X${number(travel_mm! - shots[0].travel_mm!)} (frame ${index} of ${frames.length})`, dwell, 'M0 (take the frame)')
  return [...lines, 'M2', ''].join('\n')
}

function number(value_mm: number): string {
  const text = value_mm.toFixed(4)
  return text === '-0.0000' ? '0.0000' : text
}
