import { together, type Together } from './together'

/** A run on a rail: what it was moved by its dial from frame to frame, and what the frames say. */
export interface RailCalibration {
  rail: string
  dial_mm: number
  stride_mm: number
  spread_mm?: number
}

/** A run by the clicks of a focus drive. */
export interface ClickCalibration {
  lens: string
  magnification: number
  clicks: number
  stride_mm: number
  spread_mm?: number
}

/** What all runs together tell of a rail or a drive. */
export interface KnownWay extends Together {
  runs: number
}

/** Runs agree where they differ by no more than this, as a part: a screw is more even than a lens's drive. */
const RAILS_AGREE = 0.06
const CLICKS_AGREE = 0.15

/** How far a rail really goes for each mm by its dial; undefined where no run tells. */
export function knownRail(runs: RailCalibration[]): KnownWay | undefined {
  if (runs.length === 0) return undefined
  const values = runs.map(({ stride_mm, dial_mm }) => stride_mm / dial_mm)
  return { ...together(values, runs, RAILS_AGREE), runs: runs.length }
}

/**
 * By how much a click of a focus drive changes the magnification; undefined where no run tells. The ring moves the image by the same way at
 * each click, f · Δm, and the plane of focus by f · Δm / m² (1/f = 1/u + 1/v with m = f / (u − f)).
 */
export function knownClick(runs: ClickCalibration[], focalLength_mm: number): KnownWay | undefined {
  if (runs.length === 0) return undefined
  const values = runs.map(({ stride_mm, clicks, magnification }) => ((stride_mm / clicks) * magnification ** 2) / focalLength_mm)
  return { ...together(values, runs, CLICKS_AGREE), runs: runs.length }
}
