import type { Recipe } from '@/core/finish'
import { movedRung } from './editors/Ladder'
import { sharpenFor } from './editors/sharpenFor'
import { newStep, placeFor } from './newStep'
import { changed, received, redone, undone } from './recipeHistory'

const recipe = (stops: number): Recipe => ({ steps: [{ do: 'light', stops }], profile: 'keep', bits: 16, quality: 92 })
const start = { past: [], now: recipe(0), future: [] }

describe('undo and redo', () => {
  test('a handle that is dragged is one step back; another change after it is another', () => {
    let history = changed(start, recipe(0.1), 'stops')
    for (const stops of [0.2, 0.3]) history = changed(history, recipe(stops), 'stops')
    history = changed(history, recipe(2))
    expect(undone(history).now).toEqual(recipe(0.3))
    expect(undone(undone(history)).now).toEqual(recipe(0))
    expect(redone(redone(undone(undone(history)))).now).toEqual(recipe(2))
    expect(undone(start)).toEqual(start)
  })

  test('what is changed after an undo takes the place of what was undone', () => {
    const history = changed(undone(changed(start, recipe(1))), recipe(5))
    expect(history.future).toEqual([])
    expect(undone(history).now).toEqual(recipe(0))
  })

  test('a recipe that another tab stored can be undone; the own one changes nothing', () => {
    const history = changed(received(undefined, recipe(0)), recipe(1))
    expect(received(history, recipe(1))).toBe(history)
    const other = received(history, recipe(2))
    expect([other.now, undone(other).now]).toEqual([recipe(2), recipe(1)])
  })
})

describe('a new step', () => {
  const steps = [newStep('light', { width: 600, height: 400, scale: 1 }), newStep('sharpen', { width: 600, height: 400, scale: 1 })]

  test('goes before what comes last by nature', () => {
    expect([placeFor('crop', steps), placeFor('size', steps), placeFor('scaleBar', steps), placeFor('light', [])]).toEqual([1, 1, 2, 0])
  })

  test('begins with what suits the picture', () => {
    expect(newStep('crop', { width: 600, height: 400, scale: 1 })).toEqual({ do: 'crop', x: 30, y: 20, width: 540, height: 360 })
    // 600 px of 0.05 mm are 30 mm: a bar of about a fifth. At half the size the same bar.
    expect(newStep('scaleBar', { width: 600, height: 400, scale: 1, pixel_mm: 0.05 })).toMatchObject({ length_mm: 5 })
    expect(newStep('scaleBar', { width: 300, height: 200, scale: 0.5, pixel_mm: 0.05 })).toMatchObject({ pixel_mm: 0.05, length_mm: 5 })
  })
})

test('a rung stays between its neighbours', () => {
  const points: [number, number][] = [[-8, -8], [-4, -4], [0, 0]] // prettier-ignore
  expect(movedRung(points, 1, -3.4)[1]).toEqual([-4, -3.4])
  expect(movedRung(points, 1, 3)[1][1]).toBeCloseTo(-0.2, 9)
  expect(movedRung(points, 1, -30)[1][1]).toBeCloseTo(-7.8, 9)
})

test('a print is sharpened over half of what an eye tells apart at its distance', () => {
  // 6000 px over 600 mm are 10 px a mm; from 80 cm an eye tells 0.233 mm apart.
  expect(sharpenFor({ kind: 'print', width_mm: 600, away_cm: 80, width_px: 6000 }).radius_px).toBeCloseTo(1.16, 2)
  expect(sharpenFor({ kind: 'print', width_mm: 600, away_cm: 40, width_px: 6000 }).radius_px).toBeCloseTo(0.58, 2)
  expect(sharpenFor({ kind: 'screen' }).radius_px).toBe(0.6)
})
