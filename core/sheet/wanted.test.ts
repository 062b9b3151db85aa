import { STARTER_KIT as kit } from '../kit'
import { nearestExtension, NEW_SHEET, planSheet, sheetForSize, withGear, type PlanSheet } from '.'

const filled = (change: Partial<PlanSheet>): PlanSheet => ({ ...withGear(NEW_SHEET, kit), depth_mm: 1, rail: 'Motor rail', ...change })

test.each<[Partial<PlanSheet>, number]>([
  [{ reach: 'lens' }, 0.5],
  [{ reach: 'ruler' }, 1.25],
  [{ reach: 'distance' }, 0.25],
  [{ reach: 'extension' }, 2],
  [{ reach: 'extension', lens: 'Macro 60 mm' }, 0.6],
  [{ reach: 'closeUp' }, 0.5],
  [{ reach: 'reversed', lens: 'Wide 24 mm' }, 2.5],
  [{ reach: 'faceToFace' }, 2],
  [{ reach: 'objective' }, 4],
])('what is set for a wanted size gives that size: %j', (change, wanted) => {
  const sheet = filled(change)
  expect(planSheet({ ...sheet, ...sheetForSize(wanted, sheet, kit) }, kit).plan.magnification).toBeCloseTo(wanted, 3)
})

test('a size smaller than the way can give is not pretended', () => {
  // Turned round on its flange a 24 mm lens is 20 mm from the sensor: 0.83 : 1 is the least.
  expect(sheetForSize(0.5, filled({ reach: 'reversed', lens: 'Wide 24 mm' }), kit)).toBeUndefined()
})

test('beyond its own size a lens is set as near as it goes, so that the tubes are short', () =>
  expect(sheetForSize(2, filled({ reach: 'extension' }), kit)).toEqual({ extension_mm: 100, baseMagnification: 1 }))

describe('tubes of the kit', () => {
  test('the set that comes nearest, with as few tubes as it takes', () => {
    expect(nearestExtension(33, kit)).toEqual({ items: ['Tube 12 mm', 'Tube 20 mm'], extension_mm: 32 })
    expect(nearestExtension(36, kit)).toEqual({ items: ['Tube 36 mm'], extension_mm: 36 })
    expect(nearestExtension(5, kit)).toEqual({ items: ['Tube 12 mm'], extension_mm: 12 })
  })
  test('bellows where tubes come no nearer than two millimetres', () =>
    expect(nearestExtension(100, kit)).toEqual({ items: ['Bellows'], extension_mm: 100 }))
  test('nothing where there is neither', () => expect(nearestExtension(50, { attachments: [] })).toBeUndefined())
})
