import { railStep_mm, type Kit } from '../kit'
import type { PlanRequest } from '../plan'
import { OTHER_RAIL } from './gear'
import { NEW_SHEET, type PlanSheet } from './sheet'

/** The sheet for a plan that came without one, from the command or a file: what fits it of the kit, and its figures. */
export function sheetOf(request: PlanRequest, kit: Kit): PlanSheet {
  const { camera, subject, mover, overlap, leadIn_slices, runOut_slices, diffraction, wavelength_nm, timing } = request
  const body = kit.bodies.find(({ pixelsWide, sensorWidth_mm }) => pixelsWide === camera.pixelsWide && sensorWidth_mm === camera.sensorWidth_mm)
  return {
    ...NEW_SHEET,
    body: body?.name ?? '',
    ...ofOptics(request, kit),
    ...ofSharpness(request),
    kind: subject.kind,
    ...(subject.kind === 'depth'
      ? { depth_mm: subject.depth_mm }
      : { near_mm: subject.near_mm, far_mm: subject.far_mm !== null && Number.isFinite(subject.far_mm) ? subject.far_mm : null, from: subject.from }),
    mover: mover.kind,
    ...(mover.kind === 'rail' && {
      rail: kit.rails.find((rail) => Math.abs(railStep_mm(rail) - mover.resolution_mm) < 1e-9)?.name ?? OTHER_RAIL,
      resolution_mm: mover.resolution_mm,
    }),
    diffraction,
    wavelength_nm,
    overlap_percent: Math.round(overlap * 1000) / 10,
    leadIn_slices,
    runOut_slices,
    ...(timing && {
      move_s: timing.move_s ?? 0,
      filter_s: timing.filter_s ?? 0,
      settle_s: timing.settle_s,
      delay_s: timing.delay_s ?? 0,
      interval_s: timing.interval_s ?? 0,
    }),
    ...(timing?.exposure_s > 0 && { testExposure_s: timing.exposure_s }),
  }
}

function ofOptics({ optics, subject }: PlanRequest, kit: Kit): Partial<PlanSheet> {
  if (optics.kind === 'objective') return { ...optics, kind: subject.kind, reach: 'objective' }
  const { focalLength_mm, fNumber, pupilRatio, magnification, attachment } = optics
  const lens = kit.lenses.find((known) => known.focalLength_mm === focalLength_mm && known.pupilRatio === pupilRatio)
  const known = { lens: lens?.name ?? kit.lenses.find((near) => near.focalLength_mm === focalLength_mm)?.name ?? '', fNumber }
  if (magnification === undefined) return known
  if (attachment) return { ...known, reach: 'closeUp', closeUpFocalLength_mm: focalLength_mm / magnification }
  if (lens && magnification > lens.mostMagnification) {
    return { ...known, reach: 'extension', baseMagnification: 0, extension_mm: magnification * focalLength_mm }
  }
  return { ...known, reach: 'lens', magnification }
}

function ofSharpness({ sharpness }: PlanRequest): Partial<PlanSheet> {
  if (sharpness.kind === 'pixels') return { criterion: 'pixels', blur_pixels: sharpness.count }
  if (sharpness.kind === 'coc') return { criterion: 'coc', coc_mm: sharpness.coc_mm }
  return { criterion: 'print', printWidth_mm: sharpness.width_mm, viewingDistance_mm: sharpness.viewingDistance_mm }
}
