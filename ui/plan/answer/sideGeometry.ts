import { movesCamera } from '@/core/movers'
import { fromSensor_mm, scaleDistance_mm } from '@/core/optics'
import { placementOf, targetsOf, type PlanSheet, type SheetPlan } from '@/core/sheet'

/** A plan seen from the side, in mm from the sensor (x, away from it) and from the optical axis (heights). */
export interface SideGeometry {
  /** Back of the body and its mount. */
  body: { from: number; to: number; height: number }
  lens: { from: number; to: number; height: number }
  sensorHeight: number
  /** Where the view point lies. */
  pupil: number
  subject: { from: number; to: number; height: number }
  slices: { from: number; to: number }[]
  /** Rail: how far the camera goes. */
  travel: number
  targets: { name: string; at: number }[]
  /** Where the drawing ends; anything beyond is cut. */
  end: number
  /** The subject has no end within the drawing. */
  endless: boolean
}

const BODY = { depth: 30, height: 84 }
const BARREL = 58

/**
 * The side view's measures: thin lens, camera and lens as long as the kit says. By depth everything fits; by distances
 * the drawing ends a little behind the last finite thing that matters.
 */
export function sideGeometry({ plan, request, gear }: SheetPlan, sheet: PlanSheet): SideGeometry {
  const { optics, camera } = request
  const { register_mm } = gear.body
  const body = { from: -BODY.depth, to: register_mm, height: BODY.height }
  if (optics.kind === 'lens' && request.subject.kind === 'range') return rangeGeometry({ plan, request, gear }, sheet, body)
  const { lensFront_mm, near_mm: near } = placementOf({ plan, request, gear }, sheet)
  const depth = request.subject.kind === 'depth' ? request.subject.depth_mm : 0
  const background = sheet.background_mm && sheet.background_mm > 0 ? [{ name: 'background', at: near + sheet.background_mm }] : []
  return {
    body,
    lens: { from: register_mm, to: lensFront_mm, height: BARREL },
    sensorHeight: camera.sensorHeight_mm,
    pupil: lensFront_mm - gear.lens.length_mm / 3,
    subject: { from: near, to: near + depth, height: Math.min(camera.sensorHeight_mm / plan.magnification, 130) },
    slices: plan.frames.map(({ near_mm, far_mm }) => ({ from: near + near_mm, to: near + far_mm })),
    travel: movesCamera(request.mover.kind) ? (plan.frames.at(-1)!.travel_mm ?? 0) : 0,
    targets: background,
    end: Math.max(near + Math.max(depth, plan.frames.at(-1)!.far_mm), ...background.map(({ at }) => at)) * 1.04 + 6,
    endless: false,
  }
}

function rangeGeometry({ plan, request, gear }: SheetPlan, sheet: PlanSheet, body: SideGeometry['body']): SideGeometry {
  const { optics, subject, camera } = request
  if (optics.kind !== 'lens' || subject.kind !== 'range') throw new Error('A range has a lens.')
  const f = optics.focalLength_mm
  const sensor = (mm: number) => (subject.from === 'sensor' ? mm : scaleDistance_mm(mm, f))
  const targets = targetsOf(sheet, f).map(({ name, distance_mm }) => ({ name, at: scaleDistance_mm(distance_mm, f) }))
  const finite = [
    sensor(subject.near_mm) * 3,
    ...plan.frames.map(({ scaleDistance_mm: mm }) => mm! * 1.4),
    ...targets.map(({ at }) => at * 1.15),
    sensor(subject.far_mm) * 1.04,
  ]
  const end = Math.max(...finite.filter(Number.isFinite))
  const from = sensor(subject.near_mm)
  const offset = from - (subject.from === 'sensor' ? fromSensor_mm(subject.near_mm, f) : subject.near_mm)
  return {
    body,
    lens: { from: body.to, to: body.to + gear.lens.length_mm, height: BARREL },
    sensorHeight: camera.sensorHeight_mm,
    pupil: body.to + gear.lens.length_mm / 2,
    subject: { from, to: Math.min(end, sensor(subject.far_mm)), height: 0 },
    slices: plan.frames.map(({ near_mm, far_mm }) => ({ from: near_mm + offset, to: Math.min(end, far_mm + offset) })),
    travel: 0,
    targets,
    end,
    endless: !Number.isFinite(subject.far_mm),
  }
}
