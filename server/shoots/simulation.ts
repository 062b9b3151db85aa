import type { Plan, PlanRequest } from '@/core/plan'
import { randomStream, usualFaults, type Fault, type SeriesRequest } from '@/core/simulate'
import { InputError } from '@/schemas'

/** Size of the simulated camera's pictures; small enough that a series takes a minute or two. */
const WIDTH_px = 1200
const HEIGHT_px = 800

/**
 * What the simulated camera is told for a plan: its own lens, aperture and positions, on the scene of the shoot.
 * @throws InputError where the plan is for distances that no scene has.
 */
export function simulationOf(scene: string, request: PlanRequest, plan: Plan, seed: number, faults: Fault['kind'][] = []): SeriesRequest {
  const { optics, mover } = request
  if (request.subject.kind !== 'depth' || optics.kind !== 'lens') {
    throw new InputError('The simulated camera shoots close-ups planned by depth and magnification; bring your own frames for this plan.')
  }
  return {
    scene,
    seed,
    camera: {
      sensorWidth_mm: request.camera.sensorWidth_mm,
      width_px: WIDTH_px,
      height_px: HEIGHT_px,
      focalLength_mm: optics.focalLength_mm,
      fNumber: optics.fNumber,
      magnification: optics.magnification!,
      mover: mover.kind,
    },
    positions_mm: plan.frames.map((frame) => frame.position_mm!),
    unsteadiness: { shift_px: 0.8, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    ...(faults.length > 0 && { faults: usualFaults(faults, plan.frameCount, randomStream(seed)) }),
  }
}
