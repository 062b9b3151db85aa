import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { dotsIn } from '@/core/learn/target/dots'
import { place } from '@/core/learn/target/homography'
import { sheetIn } from '@/core/learn/target/ladders'
import { createPlane } from '@/core/raster'
import { sheetPdf } from '.'

const DPI = 300
const folder = mkdtempSync(path.join(tmpdir(), 'sheet-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** The first page of a PDF as another program draws it, 0 … 1. */
async function drawn(pdf: Buffer) {
  writeFileSync(path.join(folder, 'sheet.pdf'), pdf)
  execFileSync('pdftoppm', ['-r', String(DPI), '-gray', '-png', '-singlefile', path.join(folder, 'sheet.pdf'), path.join(folder, 'sheet')])
  const { data, info } = await sharp(path.join(folder, 'sheet.png')).toColourspace('b-w').raw().toBuffer({ resolveWithObject: true })
  const plane = createPlane(info.width, info.height)
  plane.data.forEach((_, i) => (plane.data[i] = data[i * info.channels] / 255))
  return plane
}

test.each([
  ['A4', 1, 210],
  ['A4', 2.5, 210],
  ['LETTER', 1.6, 215.9],
  ['A5', 0.8, 148],
] as const)('on %s with dots %s mm apart, the sheet is recognised, and as large as it says', async (paper, pitch_mm, width_mm) => {
  const plane = await drawn(await sheetPdf({ pitch_mm, paper }))
  expect(plane.width).toBeCloseTo((width_mm / 25.4) * DPI, -1)
  const homography = sheetIn(dotsIn(plane))!
  const [left, right] = [-13, 13].map((u) => place(homography, u, 0))
  const [px_mm, wanted_mm] = [25.4 / DPI, 26 * pitch_mm]
  expect(Math.abs(((right[0] - left[0]) * px_mm) / wanted_mm - 1)).toBeLessThan(0.004)
  const up = place(homography, -13, -20)
  expect(Math.abs(((left[1] - up[1]) * px_mm) / (20 * pitch_mm) - 1)).toBeLessThan(0.004)
})

test('it says how to print it and how long its bar is', async () => {
  writeFileSync(path.join(folder, 'sheet.pdf'), await sheetPdf({ pitch_mm: 1.5, paper: 'A4' }))
  const text = execFileSync('pdftotext', ['-layout', path.join(folder, 'sheet.pdf'), '-'], { encoding: 'utf8' })
  expect(text).toContain('dots 1.5 mm apart')
  expect(text.replace(/\s+/g, ' ')).toContain('is 30 mm long')
  expect(execFileSync('pdfinfo', [path.join(folder, 'sheet.pdf')], { encoding: 'utf8' })).toMatch(/Pages:\s+1\b/)
})
