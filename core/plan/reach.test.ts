import { planSeries, checkLens, opticsBy, type LensOptics, type Reach } from '.'
import type { Refusal } from '../words'
import { workingFNumberOf } from './sharpness'
import { macro } from './testRequests'

const lens = { focalLength_mm: 50, fNumber: 4, pupilRatio: 0.8 }
const by = (reach: Reach, over: Partial<typeof lens> = {}) => opticsBy(reach, { ...lens, ...over }, 36) as LensOptics

describe('ways to a magnification', () => {
  test.each<[string, Reach, number]>([
    ['the lens itself', { kind: 'lens', magnification: 0.5 }, 0.5],
    ['36 mm of tubes', { kind: 'extension', base: 0.15, extension_mm: 36 }, 0.87],
    ['a close-up lens of 200 mm', { kind: 'closeUp', closeUpFocalLength_mm: 200 }, 0.25],
    ['reversed at a register of 44 mm on 31 mm of tubes', { kind: 'reversed', register_mm: 44, extension_mm: 31 }, 1.5],
    ['face to face with 25 mm', { kind: 'faceToFace', frontFocalLength_mm: 25, frontFNumber: 2 }, 2],
    ['a ruler, 18 mm across the frame', { kind: 'ruler', acrossFrame_mm: 18 }, 2],
  ])('%s', (_, reach, magnification) => expect(by(reach).magnification).toBeCloseTo(magnification, 9))

  test('a reversed lens swaps its pupils', () => expect(by({ kind: 'reversed', register_mm: 44, extension_mm: 0 }).pupilRatio).toBeCloseTo(1.25, 9))

  test('a close-up lens costs no light, an extension does', () => {
    const closeUp = by({ kind: 'closeUp', closeUpFocalLength_mm: 50 })
    expect(workingFNumberOf(closeUp, closeUp.magnification!)).toBe(4)
    const tubes = by({ kind: 'extension', base: 0, extension_mm: 50 })
    expect(workingFNumberOf(tubes, tubes.magnification!)).toBe(9)
  })

  test('of two lenses face to face the narrower pupil counts', () => {
    expect(by({ kind: 'faceToFace', frontFocalLength_mm: 25, frontFNumber: 4 }).fNumber).toBe(8)
    expect(by({ kind: 'faceToFace', frontFocalLength_mm: 25, frontFNumber: 1.4 }).fNumber).toBe(4)
  })

  test('the subject lies in the front focal plane of a close-up lens', () => {
    const optics = by({ kind: 'closeUp', closeUpFocalLength_mm: 125 })
    expect(planSeries({ ...macro, optics }).workingDistance_mm).toBeCloseTo(125, 9)
  })
})

describe('what a lens can do by itself', () => {
  const limits = { name: 'Macro 60 mm', widestFNumber: 2.8, smallestFNumber: 22, nearest_mm: 219, mostMagnification: 1 }
  const field = (work: () => void) => {
    try {
      work()
    } catch (error) {
      return (error as Refusal).field
    }
    return undefined
  }

  test.each([2, 25])('it has no f/%d', (fNumber) => {
    expect(field(() => checkLens(limits, fNumber))).toBe('optics.fNumber')
    expect(() => checkLens(limits, fNumber)).toThrow(expect.objectContaining({ code: 'plan.fNumber' }))
  })

  test('more than its own magnification takes an attachment', () => {
    expect(field(() => checkLens(limits, 8, { kind: 'lens', magnification: 1.2 }))).toBe('optics.magnification')
    expect(field(() => checkLens(limits, 8, { kind: 'extension', base: 1, extension_mm: 30 }))).toBeUndefined()
  })

  test('nearer than it focuses is said with the distance that is possible', () => {
    expect(() => checkLens(limits, 8, undefined, 200)).toThrow(expect.objectContaining({ code: 'plan.lensTooNear' }))
    expect(field(() => checkLens(limits, 8, undefined, 219))).toBeUndefined()
  })
})
