import { subjectDistance_mm } from '../optics'
import { say, type Sentence } from '../words'
import type { Camera, LensOptics, PlanRequest } from './request'
import { lensOptics } from './sharpness'

/** What is compared along a row: a column for each focal length, or for each distance. */
export type TradeBy = 'focalLength' | 'distance'

export interface TradeCell {
  focalLength_mm: number
  /** From the front principal plane to the subject's near edge. */
  distance_mm: number
  magnification: number
  depthOfField_mm: number
  /** The subject's width as part of the frame's, in percent; above 100 it does not fit. */
  share_percent: number
  holdsAll: boolean
  /** Diffraction leaves the allowed blur. */
  sharp: boolean
}

export interface TradeRow {
  fNumber: number
  cells: TradeCell[]
}

export interface Trade {
  rows: TradeRow[]
  /** Why no single frame solves it, or which one does. */
  reason: Sentence
}

export interface TradeSubject {
  width_mm: number
  depth_mm: number
}

type Conditions = Pick<PlanRequest, 'sharpness' | 'camera' | 'diffraction' | 'wavelength_nm'>

/**
 * Depth of field in one frame and the size of the subject, for every aperture against every lens setting. Both follow
 * from magnification and working aperture alone (D = 2 b N_w / m², Kingslake), which is why stepping back or a shorter
 * lens gains depth only by making the subject smaller.
 */
export function tradeTable(
  conditions: Conditions,
  subject: TradeSubject,
  pupilRatio: number,
  fNumbers: number[],
  settings: { focalLength_mm: number; distance_mm: number }[],
): Trade {
  const usable = settings.filter(({ focalLength_mm, distance_mm }) => distance_mm > focalLength_mm * 1.01)
  const rows = fNumbers.map((fNumber) => ({
    fNumber,
    cells: usable.map(({ focalLength_mm, distance_mm }) =>
      cellOf(conditions, subject, { kind: 'lens', focalLength_mm, fNumber, pupilRatio }, distance_mm),
    ),
  }))
  return { rows, reason: reasonOf(rows, subject) }
}

/** Distances that give each of several focal lengths the same magnification. */
export function sameSize(focalLengths_mm: number[], magnification: number): { focalLength_mm: number; distance_mm: number }[] {
  return focalLengths_mm.map((focalLength_mm) => ({ focalLength_mm, distance_mm: subjectDistance_mm(focalLength_mm, magnification) }))
}

function cellOf(conditions: Conditions, subject: TradeSubject, lens: LensOptics, distance_mm: number): TradeCell {
  const magnification = lens.focalLength_mm / (distance_mm - lens.focalLength_mm)
  const { depthOfField_mm, beyondReach } = lensOptics(lens, magnification, conditions)
  return {
    focalLength_mm: lens.focalLength_mm,
    distance_mm,
    magnification,
    depthOfField_mm,
    share_percent: shareOf(subject, magnification, conditions.camera),
    holdsAll: depthOfField_mm >= subject.depth_mm,
    sharp: !beyondReach,
  }
}

function shareOf({ width_mm }: TradeSubject, magnification: number, { sensorWidth_mm }: Camera): number {
  return (100 * width_mm * magnification) / sensorWidth_mm
}

function reasonOf(rows: TradeRow[], { depth_mm }: TradeSubject): Sentence {
  const cells = rows.flatMap(({ fNumber, cells }) => cells.map((cell) => ({ ...cell, fNumber })))
  const fitting = cells.filter(({ share_percent }) => share_percent <= 100)
  const solving = fitting.filter(({ holdsAll, sharp }) => holdsAll && sharp).sort((a, b) => b.share_percent - a.share_percent)[0]
  const largest = Math.max(0, ...fitting.map(({ share_percent }) => share_percent))
  if (!solving) return say('trade.none', { depth_mm })
  const { share_percent, fNumber, focalLength_mm } = solving
  const facts = { depth_mm, share_percent, setting: `f/${fNumber} with ${focalLength_mm} mm` }
  return share_percent >= largest * 0.95 ? say('trade.oneFrame', facts) : say('trade.smaller', { ...facts, series_percent: largest })
}
