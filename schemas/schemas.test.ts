import { completePlanRequest } from '@/core/plan'
import type { PlanRequest } from '@/core/plan'
import { check, fuseSettingsSchema, planRequestSchema, sceneRequestSchema, shootRequestSchema } from '.'
import { refusalOf } from './testRefusal'

const request = {
  camera: { sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 45 },
  optics: { kind: 'lens', focalLength_mm: 100, fNumber: 8, magnification: 1 },
  sharpness: { kind: 'coc', coc_mm: 0.03 },
  subject: { kind: 'depth', depth_mm: 12 },
}

const plan = (change: object) => check<PlanRequest>(planRequestSchema, { ...request, ...change })

describe('a plan request', () => {
  test('gets its defaults: diffraction, green light, a ring, 30 % overlap, no time', () => {
    expect(plan({})).toMatchObject({
      diffraction: true,
      wavelength_nm: 550,
      mover: { kind: 'ring' },
      overlap: 0.3,
      optics: { pupilRatio: 1 },
      timing: { settle_s: 0 },
    })
  })

  test('a depth gets a slice of margin at both ends, a range none, and null is infinity', () => {
    expect(completePlanRequest(plan({}))).toMatchObject({ leadIn_slices: 1, runOut_slices: 1 })
    const range = completePlanRequest(plan({ subject: { kind: 'range', near_mm: 500, far_mm: null } }))
    expect(range).toMatchObject({ leadIn_slices: 0, runOut_slices: 0, subject: { far_mm: Infinity, from: 'lens' } })
  })

  test.each([
    ['optics.magnification', { optics: { ...request.optics, magnification: 0 } }],
    ['optics.magnification', { optics: { ...request.optics, magnification: -2 } }],
    ['optics.magnification', { optics: { ...request.optics, magnification: NaN } }],
    ['optics.fNumber', { optics: { ...request.optics, fNumber: 'wide' } }],
    ['subject.depth_mm', { subject: { kind: 'depth', depth_mm: 0 } }],
    ['subject.depth_mm', { subject: { kind: 'depth', depth_mm: Infinity } }],
    ['subject.near_mm', { subject: { kind: 'range', near_mm: -5, far_mm: null } }],
    ['sharpness.coc_mm', { sharpness: { kind: 'coc', coc_mm: 0 } }],
    ['sharpness.count', { sharpness: { kind: 'pixels', count: -1 } }],
    ['sharpness.width_mm', { sharpness: { kind: 'print', width_mm: 0, viewingDistance_mm: 500 } }],
    ['mover.resolution_mm', { mover: { kind: 'rail', resolution_mm: 0 } }],
    ['overlap', { overlap: 1 }],
    ['camera', { camera: undefined }],
  ])('is refused at %s with one sentence', (field, change) => {
    const { field: refused, message } = refusalOf(() => plan(change))
    expect(refused).toBe(field)
    expect(message).not.toContain('\n')
    expect(message.length).toBeGreaterThan(10)
  })

  test('numbers that arrive as text are read as numbers', () => {
    expect(plan({ overlap: '0.5' }).overlap).toBe(0.5)
  })
})

describe('fuse settings', () => {
  test('have defaults', () => {
    expect(check(fuseSettingsSchema, {})).toEqual({ style: 'auto', bits: 16, crop: 'common', register: true, localWarp: 'whereMoved' })
  })

  test.each([
    ['style', { style: 'glue' }],
    ['reference', { reference: 0 }],
    ['bits', { bits: 12 }],
    ['crop', { crop: 'most' }],
  ])('are refused at %s', (field, value) => {
    expect(refusalOf(() => check(fuseSettingsSchema, value)).field).toBe(field)
  })
})

describe('a scene request', () => {
  test('needs positions and a known scene', () => {
    expect(refusalOf(() => check(sceneRequestSchema, { scene: 'fossil' })).field).toBe('positions_mm')
    expect(refusalOf(() => check(sceneRequestSchema, { scene: 'moon', positions_mm: [1] })).field).toBe('scene')
    expect(refusalOf(() => check(sceneRequestSchema, { scene: 'nib', positions_mm: [] })).field).toBe('positions_mm')
  })

  test('gets a camera where none is given', () => {
    expect(check(sceneRequestSchema, { scene: 'nib', positions_mm: [1, 2] })).toMatchObject({
      camera: { width_px: 1200, mover: 'rail' },
      seed: 1,
      fullWell: 30_000,
    })
  })
})

test('a shoot needs a title', () => {
  expect(refusalOf(() => check(shootRequestSchema, { title: '  ', plan: request })).message).toBe('Give the shoot a title.')
})
