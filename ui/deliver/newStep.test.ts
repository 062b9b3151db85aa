import * as fc from 'fast-check'
import { shapeAfter, type Step, type StepName } from '@/core/finish'
import { checkRecipe } from '@/schemas'
import { newStep, placeFor, STEP_NAMES } from './newStep'

const around = { width: 6000, height: 4000, scale: 1, pixel_mm: 0.006 }
const names = Object.keys(STEP_NAMES) as StepName[]
const recipe = (steps: Step[]) => ({ version: 1, steps, profile: 'keep', bits: 16, quality: 92 })

describe('a step that was just added', () => {
  test.each(names)('%s can be kept, at any size of the picture', (name) => {
    fc.assert(
      fc.property(fc.integer({ min: 16, max: 20_000 }), fc.integer({ min: 16, max: 20_000 }), (width, height) => {
        const step = newStep(name, { ...around, width, height })
        expect(checkRecipe(recipe([step])).steps).toEqual([expect.objectContaining(step)])
      }),
      { numRuns: 30 },
    )
  })

  test('a crop leaves a twentieth at each side, or what all frames show', () => {
    expect(newStep('crop', around)).toEqual({ do: 'crop', x: 300, y: 200, width: 5400, height: 3600 })
    const covered = { x: 12, y: 7, width: 5980, height: 3990 }
    expect(newStep('crop', { ...around, covered })).toEqual({ do: 'crop', ...covered })
  })

  test('a picture is not enlarged by itself', () => {
    expect(newStep('size', { ...around, width: 900, height: 1300 })).toEqual({ do: 'size', long_px: 1300 })
    expect(newStep('size', around)).toEqual({ do: 'size', long_px: 2400 })
  })

  test('a scale bar has the pixel of the render, and a round length that fits, however the picture was sized before', () => {
    const whole = newStep('scaleBar', around)
    expect(whole).toMatchObject({ pixel_mm: 0.006 })
    // A third of the size shows the same 36 mm.
    expect(newStep('scaleBar', { ...around, width: 2000, height: 1333, scale: 1 / 3 })).toEqual(whole)
  })

  test('nothing changes the picture’s shape but what is meant to', () => {
    for (const name of names) {
      const shape = shapeAfter([newStep(name, around)], { width: 6000, height: 4000 })
      const changes = ['crop', 'size', 'caption'].includes(name)
      expect([name, shape.width !== 6000 || shape.height !== 4000]).toEqual([name, changes])
    }
  })
})

test('in whatever order steps are added, size, sharpening, scale bar and caption come last, in this order, and the others as they came', () => {
  const last = ['size', 'sharpen', 'scaleBar', 'caption']
  fc.assert(
    fc.property(fc.shuffledSubarray(names, { minLength: 1 }), (order) => {
      const steps = order.reduce<Step[]>((all, name) => all.toSpliced(placeFor(name, all), 0, newStep(name, around)), [])
      const made = steps.map((step) => step.do as string)
      expect(made).toEqual([...order.filter((name) => !last.includes(name)), ...last.filter((name) => (order as string[]).includes(name))])
    }),
  )
})
