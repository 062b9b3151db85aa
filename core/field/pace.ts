import { frameTime_s, type Timing } from '../plan'

/** What a frame goes through, in order, and how long each takes by itself; `undefined` waits for the hand. */
export interface Phase {
  kind: 'filterOff' | 'move' | 'filterOn' | 'wait' | 'recycle' | 'shutter' | 'expose' | 'confirm'
  seconds?: number
}

/** An exposure that is over before the hand has left the release needs no count-down. */
const COUNTED_s = 1

/**
 * The phases of one frame: what the hand does, what is waited for, and what is counted. `byDevices` press the shutter themselves
 * and know that the frame was taken; the hand is told when to press, and asked.
 */
export function phasesOf(
  { settle_s, delay_s, exposure_s, exposuresPerFrame, recycling_s }: Timing,
  { filter, byDevices }: { filter: boolean; byDevices: boolean },
): Phase[] {
  const exposing_s = delay_s + exposure_s * exposuresPerFrame
  // The flash charges while the focus moves and comes to rest: the longer wait counts.
  const wait: Phase[] =
    recycling_s > settle_s ? [{ kind: 'recycle', seconds: recycling_s }] : settle_s > 0 ? [{ kind: 'wait', seconds: settle_s }] : []
  const expose: Phase = { kind: 'expose', seconds: exposing_s }
  const shutter: Phase[] = byDevices ? [expose] : exposing_s < COUNTED_s ? [{ kind: 'confirm' }] : [{ kind: 'shutter' }, expose, { kind: 'confirm' }]
  return [
    ...(filter ? [{ kind: 'filterOff' as const }] : []),
    { kind: 'move' },
    ...(filter ? [{ kind: 'filterOn' as const }] : []),
    ...wait,
    ...shutter,
  ]
}

/** Seconds from the begin of a frame to when its shutter opens, and to when the next frame can begin, as the plan reckons them. */
export function marksOf_s(timing: Timing): { release: number; next: number } {
  const { move_s, filter_s, settle_s, delay_s } = timing
  return { release: move_s + filter_s + settle_s + delay_s, next: frameTime_s(timing) }
}
