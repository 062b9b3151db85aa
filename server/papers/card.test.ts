import { NEW_SHEET, planSheet, runCardOf, withGear, type PlanSheet } from '@/core/sheet'
import { STARTER_KIT as kit } from '@/core/kit'
import { cardPdf } from './cardPdf'

const pagesOf = async (change: Partial<PlanSheet>) => {
  const sheet = { ...withGear(NEW_SHEET, kit), ...change }
  const pdf = (await cardPdf(runCardOf(planSheet(sheet, kit), sheet, { title: 'Coil fossil', subject: 'drawer C 17 → tray 2, to ∞' }))).toString(
    'latin1',
  )
  expect(pdf.slice(0, 5)).toBe('%PDF-')
  expect(pdf.trimEnd().slice(-5)).toBe('%%EOF')
  return (pdf.match(/\/Type \/Page\b/g) ?? []).length
}

test('a usual series takes one page', async () => {
  expect(await pagesOf({})).toBe(1)
  expect(await pagesOf({ depth_mm: 20, surroundings: ['water', 'height', 'road', 'animals', 'protected', 'people'] })).toBe(1)
})

test('a landscape takes one page', async () =>
  expect(await pagesOf({ kind: 'range', lens: 'Wide 24 mm', fNumber: 8, leadIn_slices: 0, runOut_slices: 0 })).toBe(1))

test('hundreds of positions go on, none left out', async () => expect(await pagesOf({ depth_mm: 95, overlap_percent: 50 })).toBeGreaterThan(1))
