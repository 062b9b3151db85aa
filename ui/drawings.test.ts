import { createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import type { PlannedFrame } from '@/core/plan'
import { NEW_SHEET, planSheet, runCardOf, withGear, type PlanSheet } from '@/core/sheet'
import { STARTER_KIT as kit } from '@/core/kit'
import { CardSheet } from './card/CardSheet'
import { axisOf, subjectEnds } from './ribbon/axis'
import { Slices } from './ribbon/Slices'

const planned = (change: Partial<PlanSheet> = {}) => {
  const sheet = { ...withGear(NEW_SHEET, kit), ...change }
  return { sheet, ...planSheet(sheet, kit) }
}
const count = (markup: string, part: RegExp) => (markup.match(part) ?? []).length

describe('the slices of the ribbon', () => {
  const frames = (n: number) => Array.from({ length: n }, (_, k): PlannedFrame => ({ index: k + 1, near_mm: k, far_mm: k + 1.5 }))
  const draw = (n: number, rest: { captured?: number; selected?: number } = {}) =>
    renderToStaticMarkup(createElement(Slices, { frames: frames(n), x: (mm: number) => mm * 2, top: 10, height: 30, captured: 0, ...rest }))

  test('are a band each while they can be told apart', () => {
    const markup = draw(40)
    expect(count(markup, /<rect /g)).toBe(40)
    expect(markup).toContain('data-slice="39"')
    expect(new Set(markup.match(/fill="rgb[^"]*"/g))).toHaveProperty('size', 40)
  })

  test('are outlines for all of them beyond that, with one band for the chosen one', () => {
    const markup = draw(500)
    expect(count(markup, /<rect /g)).toBe(0)
    expect(count(markup, /<path /g)).toBe(2)
    expect(count(markup, /M/g)).toBe(500)
    expect(count(draw(500, { selected: 7 }), /<rect /g)).toBe(1)
  })

  test('that are not captured yet are paler', () => {
    expect(count(draw(40, { captured: 10 }), /fill-opacity="0.3"/g)).toBe(30)
    expect(count(draw(40), /fill-opacity="0.3"/g)).toBe(0)
    const fine = draw(500, { captured: 100 })
    expect(count(fine, /<path /g)).toBe(4)
    expect(count(fine, /M/g)).toBe(500)
  })
})

describe('the ribbon’s axis', () => {
  test('runs a little beyond a subject by depth, slices included', () => {
    const { plan, request } = planned()
    const { x } = axisOf(plan, request, 900, 'metric')
    expect(x(plan.frames[0].near_mm)).toBeGreaterThan(0)
    expect(x(plan.frames.at(-1)!.far_mm)).toBeLessThan(900)
    expect(subjectEnds(request)).toEqual({ near: 0, far: 9 })
  })

  test('ends at infinity for a landscape, whose ends are turned to the lens', () => {
    const { plan, request } = planned({ kind: 'range', lens: 'Wide 24 mm', fNumber: 8, leadIn_slices: 0, runOut_slices: 0 })
    const { x, unit } = axisOf(plan, request, 900, 'inches')
    expect(unit).toBe('feet')
    expect(x(Infinity)).toBeCloseTo(900, 9)
    const { near, far } = subjectEnds(request)
    // 550 mm from the sensor, less the image distance of a 24 mm lens.
    expect(near).toBeCloseTo(550 - 25.15, 1)
    expect(far).toBe(Infinity)
  })
})

describe('the run card on paper', () => {
  const draw = (change: Partial<PlanSheet> = {}) => {
    const { sheet, ...rest } = planned(change)
    const card = runCardOf(rest, sheet, { title: 'Coil fossil', subject: 'drawer C 17' })
    return { card, markup: renderToStaticMarkup(createElement(CardSheet, { card })) }
  }

  test('has a box to tick for every position and for everything to see to before', () => {
    const { card, markup } = draw({ depth_mm: 4 })
    expect(count(markup, /class="box"/g)).toBe(card.positions.rows.length)
    for (const line of card.checklist) expect(markup).toContain(line)
    expect(markup).toContain('Coil fossil')
    expect(count(markup, /<table/g)).toBe(1)
  })

  test('sets many positions side by side, numbered on', () => {
    const { card, markup } = draw({ depth_mm: 20 })
    expect(count(markup, /<table/g)).toBe(2)
    expect(count(markup, /class="box"/g)).toBe(card.positions.rows.length)
    expect(markup).toContain(`<td>${card.positions.rows.length}</td>`)
  })

  test('shows cautions where there are any', () => {
    expect(draw({ surroundings: ['height'] }).markup).toContain('Watch the edge')
    expect(draw().markup).not.toContain('<h3>Watch out</h3>')
  })
})
