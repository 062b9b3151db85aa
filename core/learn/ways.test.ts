import { knownClick, knownRail } from '.'

const railRun = (stride_mm: number, spread_mm?: number, dial_mm = 0.5) => ({ rail: 'Bench rail', dial_mm, stride_mm, spread_mm })
const clickRun = (stride_mm: number, magnification: number, clicks: number) => ({ lens: 'Macro 100 mm', magnification, clicks, stride_mm })

test('runs on a rail tell how far it goes for a millimetre by its dial', () => {
  const known = knownRail([railRun(0.49, 0.01), railRun(0.98, 0.02, 1), railRun(0.485, 0.01)])!
  expect(known.value).toBeCloseTo((0.98 + 0.98 + 0.97) / 3, 9)
  expect(known).toMatchObject({ runs: 3, spread: expect.closeTo(Math.hypot(0.0204, 0.0058), 3) })
  expect(known.conflict).toBeUndefined()
  expect(knownRail([])).toBeUndefined()
})

test('runs that differ by more than a screw can are shown, and the longest counts', () => {
  expect(knownRail([railRun(0.49), railRun(0.53)])).toMatchObject({ value: 1.06, conflict: { least: 0.98, most: 1.06 } })
  // No run said how much its strides differed.
  expect(knownRail([railRun(0.49)])!.spread).toBeUndefined()
})

test('a click changes the size in the picture alike wherever the lens is focused', () => {
  // f · Δm / m² with 0.002 a click: 0.2 mm at life size, 0.8 mm at half.
  const known = knownClick([clickRun(0.2 * 3, 1, 3), clickRun(0.8, 0.5, 1)], 100)!
  expect(known.value).toBeCloseTo(0.002, 9)
  expect(known.conflict).toBeUndefined()
  expect(knownClick([clickRun(0.2, 1, 1), clickRun(0.26, 1, 1)], 100)).toMatchObject({ value: expect.closeTo(0.0026, 9), runs: 2 })
})
