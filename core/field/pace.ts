import type { Timing } from '../plan'

/** What a frame goes through, in order, and how long each takes by itself; `undefined` waits for the hand. */
export interface Phase {
  kind: 'filterOff' | 'move' | 'filterOn' | 'wait' | 'expose' | 'recycle'
  seconds?: number
}

/** The phases of one frame: what the hand does, what is waited for, and what only has to be counted. */
export function phasesOf({ settle_s, delay_s, exposure_s, exposuresPerFrame, recycling_s }: Timing, filter: boolean): Phase[] {
  const wait = settle_s + delay_s
  return [
    ...(filter ? [{ kind: 'filterOff' as const }] : []),
    { kind: 'move' },
    ...(filter ? [{ kind: 'filterOn' as const }] : []),
    ...(wait > 0 ? [{ kind: 'wait' as const, seconds: wait }] : []),
    { kind: 'expose', seconds: exposure_s * exposuresPerFrame },
    ...(recycling_s > 0 ? [{ kind: 'recycle' as const, seconds: recycling_s }] : []),
  ]
}
