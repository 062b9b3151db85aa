import { NO_TIMING, type PlanRequest } from '@/core/plan'
import { BODIES, LENSES } from './kit'

/** What a two-person studio has on its list in a small regional museum. */
export interface DemoShoot {
  title: string
  subject: string
  scene: string
  plan: PlanRequest
  /** How far the demo takes it: only planned, or shot and fused as well. */
  done: boolean
}

const { name: _body, ...bodyA } = BODIES[0]
const macro = LENSES[0]
const wide = LENSES[2]

const common = {
  camera: bodyA,
  sharpness: { kind: 'pixels', count: 4 },
  diffraction: true,
  wavelength_nm: 550,
  timing: { ...NO_TIMING, settle_s: 2, exposure_s: 0.125, write_s: 1 },
} as const

export const DEMO_SHOOTS: DemoShoot[] = [
  {
    title: 'Terrace garden with the stone trough',
    subject: 'Behind the house: the trough at arm’s length, three walls, the gate, the hill',
    scene: 'fossil',
    plan: {
      ...common,
      optics: { kind: 'lens', focalLength_mm: wide.focalLength_mm, fNumber: 8, pupilRatio: wide.pupilRatio },
      subject: { kind: 'range', near_mm: 550, far_mm: Infinity, from: 'sensor' },
      mover: { kind: 'ring' },
      overlap: 0.2,
      leadIn_slices: 0,
      runOut_slices: 0,
    },
    done: false,
  },
  {
    title: 'Fountain-pen nib, writing sample 12',
    subject: 'Gold nib on the letter it wrote, half life size, by the focus ring',
    scene: 'nib',
    plan: {
      ...common,
      optics: { kind: 'lens', focalLength_mm: macro.focalLength_mm, fNumber: 8, pupilRatio: macro.pupilRatio, magnification: 0.5 },
      subject: { kind: 'depth', depth_mm: 34 },
      mover: { kind: 'ring' },
      overlap: 0.2,
      leadIn_slices: 0.5,
      runOut_slices: 0.5,
    },
    done: false,
  },
  {
    title: 'Ribbed coil fossil, drawer C 17',
    subject: 'Coiled shell in limestone at life size, with the preparator’s brush',
    scene: 'fossil',
    plan: {
      ...common,
      optics: { kind: 'lens', focalLength_mm: macro.focalLength_mm, fNumber: 8, pupilRatio: macro.pupilRatio, magnification: 1 },
      subject: { kind: 'depth', depth_mm: 9 },
      mover: { kind: 'rail', resolution_mm: 0.01 },
      overlap: 0.2,
      leadIn_slices: 0.5,
      runOut_slices: 0.5,
    },
    done: true,
  },
]
