import type { Bend } from '../raster'
import { bendFrom, bendsFile, type BendsFile } from '.'

const bend: Bend = {
  left_px: 0,
  top_px: 0,
  spacingX_px: 30,
  spacingY_px: 20,
  columns: 2,
  rows: 2,
  x_px: Float32Array.of(0.126, -1.5, 0, 2),
  y_px: Float32Array.of(0, 0.25, -0.75, 1),
}

test('what is written says the same when it is read, to a hundredth of a pixel', () => {
  const file = JSON.parse(JSON.stringify(bendsFile(new Map([['f_03.jpg', bend]])))) as BendsFile
  const read = bendFrom(file, 'f_03.jpg')!
  expect({ ...read, x_px: [], y_px: [] }).toEqual({ ...bend, x_px: [], y_px: [] })
  bend.x_px.forEach((x, k) => expect(Math.abs(read.x_px[k] - x)).toBeLessThanOrEqual(0.0051))
  expect([...read.y_px]).toEqual([...bend.y_px])
})

test('a frame that was not bent has none, and there may be no net at all', () => {
  expect(bendFrom(bendsFile(new Map([['f_03.jpg', bend]])), 'f_04.jpg')).toBeUndefined()
  expect(bendFrom(bendsFile(new Map()), 'f_03.jpg')).toBeUndefined()
})
