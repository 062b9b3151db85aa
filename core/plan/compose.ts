import { MOVERS, movesCamera } from '../movers'
import { say, type Sentence } from '../words'
import type { Plan } from './reply'
import type { PlanRequest } from './request'

/** Where to compose, and what to leave for registration to cut. */
export interface Composing {
  at: 'near' | 'far'
  /** On each side of the picture. */
  edge_percent: number
  edge_px: number
  text: string
}

/**
 * Composes where the picture is tightest, so that no other frame shows less: with ring or drive at the nearest focus
 * (largest image distance), on a rail at the far end, where the camera has come closest to everything.
 */
export function composing({ edgeLoss_percent }: Plan, { mover, camera }: PlanRequest): Composing {
  const at = MOVERS[mover.kind].tightestEnd
  const edge_percent = edgeLoss_percent / 2
  const edge_px = Math.ceil((edge_percent / 100) * camera.pixelsWide)
  const leave =
    edge_px < 4
      ? 'a sliver at each edge is enough'
      : `leave ${Number(edge_percent.toPrecision(2))} % (${edge_px} pixels) free at the left and right edge`
  return {
    at,
    edge_percent,
    edge_px,
    text: `Compose with the focus at the ${at} end, where the picture is tightest. If you compose at the other end, ${leave}.`,
  }
}

/** Both schools of direction have their case; which end first, and why. */
export interface DirectionAdvice {
  favoured: 'near' | 'far'
  reason: Sentence
}

/** Which end to begin at: gravity decides on a steep rail, the light outdoors, framing otherwise. */
export function directionAdvice({ mover, subject }: PlanRequest, gravity: 'level' | 'down' | 'up' = 'level'): DirectionAdvice {
  if (movesCamera(mover.kind) && gravity !== 'level') {
    // Going on is going towards the subject: downhill gravity runs ahead of the screw, so turn against it.
    return gravity === 'down' ? { favoured: 'far', reason: say('direction.pointsDown') } : { favoured: 'near', reason: say('direction.pointsUp') }
  }
  if (subject.kind === 'range') return { favoured: 'far', reason: say('direction.outdoors') }
  return { favoured: 'near', reason: say(`direction.${mover.kind}`) }
}
