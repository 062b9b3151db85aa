import { moverKindOf } from './sheetMovers'
import type { Kit, Lens } from '../kit'
import { magnificationAt, magnificationFromSensor, settableShutter_s, subjectDistance_mm } from '../optics'
import { refusal } from '../words'
import {
  opticsBy,
  seriesLight,
  type Camera,
  type LensOptics,
  type Mover,
  type Optics,
  type PlanRequest,
  type Reach,
  type Sharpness,
  type Timing,
} from '../plan'
import { closingOf, gearOf, railStepOf, type Gear } from './gear'
import { clickWay_mm } from './ringSteps'
import type { MaybeNumber, PlanSheet } from './sheet'

/**
 * The plan request that a sheet amounts to with this kit.
 * @throws Refusal with the sheet's key as its field, saying what to give there.
 */
export function requestOf(sheet: PlanSheet, kit: Kit): PlanRequest {
  const gear = gearOf(sheet, kit)
  const camera = cameraOf(sheet, gear)
  const optics = opticsOf(sheet, gear, camera)
  return {
    camera,
    optics,
    sharpness: sharpnessOf(sheet),
    diffraction: sheet.diffraction,
    wavelength_nm: above(sheet.wavelength_nm, 'wavelength_nm', 'the wavelength in nm'),
    subject: subjectOf(sheet),
    mover: moverOf(sheet, gear, optics),
    overlap: within(sheet.overlap_percent, 0, 95, 'overlap_percent', 'the overlap in percent, 0 to 95') / 100,
    leadIn_slices: within(sheet.leadIn_slices, 0, 20, 'leadIn_slices', '0 to 20 extra slices in front'),
    runOut_slices: within(sheet.runOut_slices, 0, 20, 'runOut_slices', '0 to 20 extra slices behind'),
    timing: timingOf(sheet, gear, optics),
  }
}

/** How the sheet reaches its magnification, with its figures checked. */
export function reachOf(sheet: PlanSheet, { body, lens }: Pick<Gear, 'body' | 'lens'>): Reach {
  switch (sheet.reach) {
    case 'lens':
      return { kind: 'lens', magnification: above(sheet.magnification, 'magnification', 'the magnification, 1 for life size') }
    case 'extension':
      return {
        kind: 'extension',
        base: atLeastZero(sheet.baseMagnification, 'baseMagnification', 'the magnification of the lens by itself, 0 at infinity'),
        extension_mm: above(sheet.extension_mm, 'extension_mm', 'the extension in mm'),
      }
    case 'closeUp':
      return {
        kind: 'closeUp',
        closeUpFocalLength_mm: above(sheet.closeUpFocalLength_mm, 'closeUpFocalLength_mm', 'the close-up lens’s focal length'),
      }
    case 'reversed':
      return {
        kind: 'reversed',
        register_mm: body.register_mm,
        extension_mm: atLeastZero(sheet.extension_mm, 'extension_mm', 'the extension in mm, 0 for none'),
      }
    case 'faceToFace':
      return {
        kind: 'faceToFace',
        frontFocalLength_mm: above(sheet.frontFocalLength_mm, 'frontFocalLength_mm', 'the front lens’s focal length'),
        frontFNumber: above(sheet.frontFNumber, 'frontFNumber', 'the front lens’s f-number'),
      }
    case 'objective':
      return {
        kind: 'objective',
        designMagnification: above(sheet.designMagnification, 'designMagnification', 'the magnification engraved on the objective'),
        designTube_mm: above(sheet.designTube_mm, 'designTube_mm', 'the tube length the objective is made for'),
        tube_mm: above(sheet.tube_mm, 'tube_mm', 'the focal length of the tube lens in use'),
        numericalAperture: within(sheet.numericalAperture, 0.001, 0.99, 'numericalAperture', 'the numerical aperture, below 1 in air'),
      }
    case 'ruler':
      return { kind: 'ruler', acrossFrame_mm: above(sheet.acrossFrame_mm, 'acrossFrame_mm', 'how much of a ruler fills the frame’s width') }
    case 'distance':
      return { kind: 'lens', magnification: magnificationAtDistance(sheet, lens) }
  }
}

function magnificationAtDistance(sheet: PlanSheet, lens: Lens): number {
  const distance_mm = above(sheet.distance_mm, 'distance_mm', 'the distance from the sensor to the subject’s near edge')
  // As near as the lens focuses at all; nearer, there may be no such magnification.
  const magnification = distance_mm < lens.nearest_mm * (1 - 1e-6) ? NaN : magnificationFromSensor(lens.focalLength_mm, distance_mm, closingOf(lens))
  if (!(magnification > 0))
    throw refusal('plan.lensCloser', { lens: lens.name, most: lens.mostMagnification, closest_mm: Math.ceil(lens.nearest_mm) }, 'distance_mm')
  return magnification
}

function cameraOf({ sensorShift }: PlanSheet, { body }: Gear): Camera {
  const { sensorWidth_mm, sensorHeight_mm, pixelsWide, rawSize_MB, shiftFiner, shiftExposures, name } = body
  if (sensorShift && !shiftExposures) throw refusal('plan.noSensorShift', { body: name }, 'sensorShift')
  return { sensorWidth_mm, sensorHeight_mm, pixelsWide: Math.round(pixelsWide * (sensorShift ? (shiftFiner ?? 1) : 1)), rawSize_MB }
}

function opticsOf(sheet: PlanSheet, gear: Gear, camera: Camera): Optics {
  const { focalLength_mm, pupilRatio, breathing } = gear.lens
  if (sheet.kind === 'depth' && sheet.reach === 'objective')
    return opticsBy(reachOf(sheet, gear), { ...gear.lens, fNumber: 1 }, camera.sensorWidth_mm)
  const lens = {
    focalLength_mm,
    pupilRatio,
    fNumber: above(sheet.fNumber, 'fNumber', 'the f-number set on the lens'),
    ...(breathing && { breathing }),
  }
  return sheet.kind === 'range' ? { kind: 'lens', ...lens } : opticsBy(reachOf(sheet, gear), lens, camera.sensorWidth_mm)
}

function sharpnessOf(sheet: PlanSheet): Sharpness {
  if (sheet.criterion === 'pixels') return { kind: 'pixels', count: above(sheet.blur_pixels, 'blur_pixels', 'the allowed blur in pixels') }
  if (sheet.criterion === 'coc') return { kind: 'coc', coc_mm: above(sheet.coc_mm, 'coc_mm', 'the circle of confusion in mm') }
  return {
    kind: 'print',
    width_mm: above(sheet.printWidth_mm, 'printWidth_mm', 'the print’s width'),
    viewingDistance_mm: above(sheet.viewingDistance_mm, 'viewingDistance_mm', 'the viewing distance'),
  }
}

function subjectOf(sheet: PlanSheet): PlanRequest['subject'] {
  if (sheet.kind === 'depth') return { kind: 'depth', depth_mm: above(sheet.depth_mm, 'depth_mm', 'the subject’s depth') }
  const near_mm = above(sheet.near_mm, 'near_mm', 'the distance of the nearest point')
  const far_mm =
    sheet.far_mm === null ? Infinity : above(sheet.far_mm, 'far_mm', 'the distance of the farthest point, or leave it empty for infinity')
  return { kind: 'range', near_mm, far_mm, from: sheet.from }
}

function moverOf(sheet: PlanSheet, gear: Gear, optics: Optics): Mover {
  const kind = moverKindOf(sheet)
  switch (kind) {
    case 'ring': {
      const click_mm = clickOf(sheet, gear, optics)
      return { kind, ...(click_mm !== undefined && { resolution_mm: click_mm }) }
    }
    case 'rail':
      return { kind, resolution_mm: above(railStepOf(sheet, gear), 'resolution_mm', 'the smallest step of the rail in mm') }
  }
}

/** A click's way at the subject's far edge, where it is longest; undefined where the focus is not driven by clicks, or nobody knows them. */
function clickOf({ kind, depth_mm }: PlanSheet, { perClick, lens }: Gear, optics: Optics): number | undefined {
  if (!perClick || kind !== 'depth' || optics.kind !== 'lens' || optics.attachment || !optics.magnification) return undefined
  const f = lens.focalLength_mm
  return clickWay_mm(perClick, lens, magnificationAt(f, subjectDistance_mm(f, optics.magnification) + depth_mm!))
}

function timingOf(sheet: PlanSheet, { body, light, rail }: Gear, optics: Optics): Timing {
  // How long the hand takes hangs on the stride, so that it is filled in once the plan is known (`planSheet`).
  return {
    move_s: 0,
    filter_s: 0,
    settle_s: sheet.settle_s === null ? (rail?.settle_s ?? 2) : atLeastZero(sheet.settle_s, 'settle_s', 'the settling time in seconds, 0 for none'),
    delay_s: atLeastZero(sheet.delay_s, 'delay_s', 'the delay in seconds, 0 for none'),
    exposure_s: settableShutter_s(seriesLight(lightSettingsOf(sheet), meteredLens(optics)).exposure_s, body.shutterPerStop),
    exposuresPerFrame: sheet.sensorShift ? (body.shiftExposures ?? 1) : 1,
    interval_s: atLeastZero(sheet.interval_s, 'interval_s', 'the interval in seconds, 0 for none'),
    recycling_s: light.kind === 'flash' ? (light.recycling_s ?? 0) : 0,
    write_s: body.write_s,
  }
}

/** The sheet's settings of light, checked. */
export function lightSettingsOf(sheet: PlanSheet) {
  return {
    testExposure_s: above(sheet.testExposure_s, 'testExposure_s', 'the exposure time of the test frame, such as 1/8 s'),
    filter_stops: within(sheet.filter_stops, 0, 30, 'filter_stops', 'the filter in stops, 0 for none'),
    polariser_stops: within(sheet.polariser_stops, 0, 4, 'polariser_stops', 'what the polariser takes in stops, 0 for none'),
    handMetered: sheet.handMetered,
    headroom_stops: within(sheet.headroom_stops, 0, 5, 'headroom_stops', 'the headroom in stops, 0 for none'),
  }
}

/** What the light calculation needs of the optics; an objective is metered through, so nothing is lost beyond that. */
export function meteredLens(optics: Optics): Pick<LensOptics, 'fNumber' | 'pupilRatio' | 'attachment'> & { magnification: number } {
  if (optics.kind === 'objective') return { fNumber: 1 / (2 * optics.numericalAperture), magnification: 0, pupilRatio: 1, attachment: true }
  return { ...optics, magnification: optics.magnification ?? 0 }
}

function above(value: MaybeNumber, field: string, what: string): number {
  if (value === null || !(value > 0) || !Number.isFinite(value)) throw refusal('plan.above', { what }, field)
  return value
}

function atLeastZero(value: MaybeNumber, field: string, what: string): number {
  return within(value, 0, 86_400, field, what)
}

function within(value: MaybeNumber, least: number, most: number, field: string, what: string): number {
  if (value === null || !(value >= least && value <= most)) throw refusal('plan.within', { what }, field)
  return value
}
