import { movesCamera } from '@/core/movers'
import { magnificationAt, subjectDistance_mm } from '@/core/optics'
import type { LensOptics, Plan, PlanRequest } from '@/core/plan'
import { randomStream, usualFaults, type Fault, type SeriesRequest } from '@/core/simulate'
import { refusal } from '@/core/words'

/** Size of the simulated camera's pictures; small enough that a series takes a minute or two. */
const WIDTH_px = 1200
const HEIGHT_px = 800

/**
 * What the simulated camera gets for a plan: its own lens, aperture and positions, on the scene of the shoot.
 * @throws Refusal where the plan is for optics that the stand-in lacks.
 */
export function simulationOf(scene: string, request: PlanRequest, plan: Plan, seed: number, faults: Fault['kind'][] = []): SeriesRequest {
  const { optics, mover } = request
  if (optics.kind !== 'lens') throw refusal('device.objective')
  const { magnification, positions_mm } = placesOf(request, plan, optics.focalLength_mm)
  return {
    scene,
    seed,
    camera: {
      sensorWidth_mm: request.camera.sensorWidth_mm,
      width_px: WIDTH_px,
      height_px: HEIGHT_px,
      focalLength_mm: optics.focalLength_mm,
      fNumber: optics.fNumber,
      magnification,
      mover: mover.kind,
    },
    positions_mm,
    unsteadiness: { shift_px: 0.8, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    ...(faults.length > 0 && { faults: usualFaults(faults, plan.frameCount, randomStream(seed)) }),
  }
}

/** Planes of focus from the near edge, and the magnification in the middle one, whether planned by depth or by distances. */
function placesOf(
  { subject, optics, mover }: PlanRequest,
  { frames }: Plan,
  focalLength_mm: number,
): Pick<SeriesRequest, 'positions_mm'> & { magnification: number } {
  const middle = frames[Math.ceil(frames.length / 2) - 1]
  if (subject.kind === 'depth') {
    const { magnification, attachment } = optics as LensOptics
    // A plan frames the near edge. With the ring, what lies behind it is pictured smaller; a rail takes its magnification along.
    const near_mm = subjectDistance_mm(focalLength_mm, magnification!)
    const inMiddle = !movesCamera(mover.kind) && !attachment ? magnificationAt(focalLength_mm, near_mm + middle.position_mm!) : magnification!
    return { magnification: inMiddle, positions_mm: frames.map((frame) => frame.position_mm!) }
  }
  return {
    magnification: magnificationAt(focalLength_mm, middle.focusDistance_mm!),
    positions_mm: frames.map((frame) => frame.focusDistance_mm! - subject.near_mm),
  }
}
