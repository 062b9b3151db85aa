import type { MoverKind } from '../../movers'
import { pupilDistance_mm } from '../framing'
import type { Plan } from '../reply'
import type { LensOptics } from '../request'

export interface MoverAdvice {
  favoured: MoverKind
  /** On a rail, how much more the near plane grows than the far one over the travel, in percent. The ring's is 0. */
  perspectiveChange_percent: number
  /** How much the subject grows against a background so far behind it, in percent; 0 without one. */
  backgroundShift_percent: number
  reason: string
}

/** Beyond this the planes of one frame no longer lie on those of the next well enough. */
const MUCH_percent = 4

/**
 * Rail or ring. On a rail the entrance pupil comes nearer by the travel T, so a plane at distance z from it grows by
 * z / (z − T): a near plane more than a far one. The ring keeps the viewpoint, but above life size it moves the
 * focus too little and the picture's scale too much. `background_mm` lies behind the subject's near edge.
 * (Perspective: Ray, *Applied Photographic Optics*, 3rd ed.)
 */
export function moverAdvice(plan: Plan, lens: LensOptics, depth_mm: number, background_mm?: number): MoverAdvice {
  const travel = plan.frames.at(-1)!.travel_mm ?? 0
  const near = pupilDistance_mm(lens, plan.magnification)
  const growth = (z: number) => z / Math.max(z - travel, 1e-6)
  const perspectiveChange_percent = 100 * (growth(near) / growth(near + depth_mm) - 1)
  const backgroundShift_percent = background_mm ? 100 * (growth(near) / growth(near + background_mm) - 1) : 0
  const shown = { perspectiveChange_percent, backgroundShift_percent }
  const figure = `over the travel a rail changes near against far by ${perspectiveChange_percent.toPrecision(2)} %`
  const behind =
    background_mm && backgroundShift_percent > 1
      ? ` The background would slide by ${backgroundShift_percent.toPrecision(2)} % against the subject and look wrong along its outline.`
      : ''
  if (plan.magnification > 1) {
    const also = perspectiveChange_percent > MUCH_percent ? '; check crossing parts after fusing' : ''
    return { ...shown, favoured: 'rail', reason: `Above life size a ring moves focus too coarsely: use the rail; ${figure}${also}.${behind}` }
  }
  const why =
    perspectiveChange_percent > MUCH_percent || behind ? 'the ring keeps the viewpoint' : 'the ring keeps the viewpoint, and either would do'
  return { ...shown, favoured: 'ring', reason: `Up to life size ${why}: ${figure}.${behind}` }
}
