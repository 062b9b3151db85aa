import { checkTravel, NO_TIMING, planSeries, type Plan, type PlanRequest } from '@/core/plan'
import { BENCH_RAIL, BODIES, LENSES } from '@/demo/kit'
import { check, completePlanRequest, isForUser, planRequestSchema } from '@/schemas'

/** What stands in the fields of the plan screen; null where a field is empty. */
export interface Draft {
  title: string
  subject: string
  scene: string
  kind: 'depth' | 'range'
  depth_mm: number | null
  near_mm: number | null
  /** null: infinity. */
  far_mm: number | null
  from: 'lens' | 'sensor'
  body: string
  lens: string
  fNumber: number | null
  magnification: number | null
  blur_pixels: number | null
  overlap_percent: number | null
  leadIn_slices: number | null
  runOut_slices: number | null
  mover: 'rail' | 'ring'
  resolution_mm: number | null
}

export const NEW_DRAFT: Draft = {
  title: '',
  subject: '',
  scene: 'fossil',
  kind: 'depth',
  depth_mm: 9,
  near_mm: 550,
  far_mm: null,
  from: 'sensor',
  body: BODIES[0].name,
  lens: LENSES[0].name,
  fNumber: 5.6,
  magnification: 1,
  blur_pixels: 3,
  overlap_percent: 30,
  leadIn_slices: 1,
  runOut_slices: 1,
  mover: 'rail',
  resolution_mm: 0.01,
}

export type Planned = { plan: Plan; request: PlanRequest } | { error: string; field: string }

/** The plan of a draft, or what to mend and where. */
export function planOf(draft: Draft): Planned {
  try {
    const request = completePlanRequest(check<PlanRequest>(planRequestSchema, requestOf(draft)))
    const plan = planSeries(request)
    if (request.mover.kind === 'rail') checkTravel(plan.frames.at(-1)!.travel_mm ?? 0, BENCH_RAIL)
    return { plan, request }
  } catch (error) {
    if (isForUser(error)) return { error: error.message, field: error.field }
    throw error
  }
}

/** The request that the fields describe, unchecked. */
export function requestOf(draft: Draft): unknown {
  const { name: _body, ...camera } = BODIES.find(({ name }) => name === draft.body) ?? BODIES[0]
  const { focalLength_mm, pupilRatio } = LENSES.find(({ name }) => name === draft.lens) ?? LENSES[0]
  const byDepth = draft.kind === 'depth'
  return {
    camera,
    optics: {
      kind: 'lens',
      focalLength_mm,
      pupilRatio,
      fNumber: given(draft.fNumber),
      ...(byDepth && { magnification: given(draft.magnification) }),
    },
    sharpness: { kind: 'pixels', count: given(draft.blur_pixels) },
    subject: byDepth
      ? { kind: 'depth', depth_mm: given(draft.depth_mm) }
      : { kind: 'range', near_mm: given(draft.near_mm), far_mm: draft.far_mm, from: draft.from },
    mover: byDepth && draft.mover === 'rail' ? { kind: 'rail', resolution_mm: given(draft.resolution_mm) } : { kind: 'ring' },
    overlap: draft.overlap_percent === null ? NaN : draft.overlap_percent / 100,
    leadIn_slices: given(draft.leadIn_slices),
    runOut_slices: given(draft.runOut_slices),
    timing: { ...NO_TIMING, settle_s: 2, exposure_s: 0.125, write_s: 1 },
  }
}

/** The fields for a plan that was stored. */
export function draftOf(shoot: { title: string; subject: string; scene: string; planRequest: PlanRequest }): Draft {
  const { camera, optics, sharpness, subject, mover, overlap, leadIn_slices, runOut_slices } = shoot.planRequest
  const body = BODIES.find((candidate) => candidate.pixelsWide === camera.pixelsWide) ?? BODIES[0]
  const lens = LENSES.find((candidate) => optics.kind === 'lens' && candidate.focalLength_mm === optics.focalLength_mm) ?? LENSES[0]
  return {
    ...NEW_DRAFT,
    title: shoot.title,
    subject: shoot.subject,
    scene: shoot.scene,
    kind: subject.kind,
    ...(subject.kind === 'depth'
      ? { depth_mm: subject.depth_mm }
      : { near_mm: subject.near_mm, far_mm: Number.isFinite(subject.far_mm) ? subject.far_mm : null, from: subject.from }),
    body: body.name,
    lens: lens.name,
    ...(optics.kind === 'lens' && { fNumber: optics.fNumber, magnification: optics.magnification ?? NEW_DRAFT.magnification }),
    blur_pixels: sharpness.kind === 'pixels' ? sharpness.count : NEW_DRAFT.blur_pixels,
    overlap_percent: Math.round(overlap * 1000) / 10,
    leadIn_slices,
    runOut_slices,
    mover: mover.kind,
    resolution_mm: mover.kind === 'rail' ? mover.resolution_mm : NEW_DRAFT.resolution_mm,
  }
}

/** An empty field is no number, and the schema says so at the field. */
function given(value: number | null): number {
  return value ?? NaN
}
