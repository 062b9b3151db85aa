import { allowedBlur_mm, lensOptics, objectiveOptics } from './sharpness'

const camera = { sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 45 }
const conditions = { camera, sharpness: { kind: 'coc', coc_mm: 0.03 } as const, diffraction: true, wavelength_nm: 550 }
const lens = { kind: 'lens', focalLength_mm: 100, fNumber: 8, pupilRatio: 1 } as const

test('the allowed blur: given, by pixels, by the print', () => {
  expect(allowedBlur_mm({ kind: 'coc', coc_mm: 0.02 }, camera)).toBe(0.02)
  expect(allowedBlur_mm({ kind: 'pixels', count: 2 }, camera)).toBeCloseTo(0.012, 12)
  expect(allowedBlur_mm({ kind: 'print', width_mm: 600, viewingDistance_mm: 500 }, camera)).toBeCloseTo(0.008727, 6)
})

test('without diffraction the whole blur is left to defocus, and no wave floor holds', () => {
  const classical = lensOptics(lens, 1, { ...conditions, diffraction: false })
  expect(classical).toMatchObject({ allowance_mm: 0.03, diffraction_mm: 0, beyondReach: false, waveLimited: false })
  expect(classical.depthOfField_mm).toBeCloseTo(0.96, 9)
})

test('where diffraction exceeds the criterion a slice is as thin as waves let it be, and that is said', () => {
  const small = lensOptics({ ...lens, fNumber: 5.6 }, 2, { ...conditions, sharpness: { kind: 'coc', coc_mm: 0.01 } })
  expect(small).toMatchObject({ beyondReach: true, waveLimited: true })
  expect(small.depthOfField_mm).toBeCloseTo(0.15523, 5)
})

test('far away a lens has no close-up depth of field', () => {
  expect(lensOptics(lens, 0, conditions).depthOfField_mm).toBe(Infinity)
})

test('an objective on a shorter tube magnifies less and holds more', () => {
  const objective = { kind: 'objective', designMagnification: 10, designTube_mm: 200, tube_mm: 200, numericalAperture: 0.25 } as const
  const full = objectiveOptics(objective, conditions)
  const short = objectiveOptics({ ...objective, tube_mm: 100 }, conditions)
  expect(full.magnification).toBe(10)
  expect(short.magnification).toBe(5)
  expect(short.depthOfField_mm).toBeGreaterThan(full.depthOfField_mm)
  expect(full.workingFNumber).toBeCloseTo(20, 9)
})
