import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { readSamples } from '@/codec'
import { expectRefused, nitidus } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const ok = (args: string[]) => {
  const { status, stderr } = nitidus(args)
  expect([stderr, status]).toEqual(['', 0])
}
/** Mends with these edits, and answers the picture's samples. */
async function mended(edits: object[], change: { base?: unknown; args?: string[]; out?: string } = {}) {
  writeFileSync(at('mend.json'), JSON.stringify({ base: change.base ?? 'fused', edits }))
  const out = at(change.out ?? 'mended.tif')
  ok([
    'mend',
    at('frames'),
    '--report',
    at('report.json'),
    '--base',
    at('result.tif'),
    '--edits',
    at('mend.json'),
    '--out',
    out,
    ...(change.args ?? []),
  ])
  return readSamples(out)
}
const stroke = (x: number, y: number, radius_px: number) => ({ path: [[x, y]], radius_px, softness: 0, opacity: 1 })

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'mend-'))
  const scene = { scene: 'fossil', camera: { width_px: 300, height_px: 200, mover: 'ring', fNumber: 5.6 }, positions_mm: [0, 2, 4, 6, 8] }
  writeFileSync(at('scene.json'), JSON.stringify(scene))
  ok(['simulate', at('scene.json'), '--out', at('frames')])
  ok(['fuse', at('frames'), '--out', at('result.tif'), '--report', at('report.json'), '--bends', at('bends.json'), '--depth', at('depth.png')])
})
afterAll(() => rmSync(folder, { recursive: true }))

test('a frame painted over is the same as the frame laid whole; beside the stroke not a bit changes', async () => {
  const base = await readSamples(at('result.tif'))
  const painted = await mended([{ id: '1', kind: 'donor', frame: 'frame_004.jpg', ...stroke(120, 80, 20) }])
  const whole = await mended([], { base: { frame: 'frame_004.jpg' } })
  let inside = 0
  for (let y = 0, i = 0; y < base.height; y++)
    for (let x = 0; x < base.width; x++, i++) {
      const within = Math.hypot(x - 120, y - 80) <= 20
      for (let c = 0; c < 3; c++) {
        const there = painted.samples[3 * i + c]
        if (within) expect(Math.abs(there - whole.samples[3 * i + c])).toBeLessThanOrEqual(1)
        else expect(there).toBe(base.samples[3 * i + c])
      }
      inside += Number(within)
    }
  expect(inside).toBeGreaterThan(1000)
})

test('the reference frame, laid whole, is the file itself', async () => {
  const { reference, crop } = JSON.parse(readFileSync(at('report.json'), 'utf8'))
  const whole = await mended([], { base: { frame: reference } })
  const file = await readSamples(at('frames', reference))
  for (let y = 0; y < crop.height; y += 7)
    for (let x = 0; x < crop.width; x += 5) {
      const from = 3 * ((y + crop.y) * file.width + x + crop.x)
      for (let c = 0; c < 3; c++) expect(Math.abs(whole.samples[3 * (y * crop.width + x) + c] - 257 * file.samples[from + c])).toBeLessThanOrEqual(2)
    }
})

test('frames up to soft lines, from the bottom of the picture upwards', async () => {
  const boundaries = [
    {
      frame: 'frame_001.jpg',
      until: [
        [0, 100],
        [299, 100],
      ],
      width_px: 20,
    },
    { frame: 'frame_005.jpg' },
  ]
  const out = await mended([], { base: { boundaries } })
  const [below, above] = [await mended([], { base: { frame: 'frame_001.jpg' } }), await mended([], { base: { frame: 'frame_005.jpg' } })]
  const same = (a: typeof out, y: number) =>
    Array.from({ length: out.width }, (_, x) => Math.abs(out.samples[3 * (y * out.width + x)] - a.samples[3 * (y * out.width + x)])).every(
      (d) => d <= 1,
    )
  expect([same(above, 80), same(below, 120), same(above, 100), same(below, 100)]).toEqual([true, true, false, false])
})

test('a gate goes by the depth, given or worked out; what was undone does nothing; the same bytes each time', async () => {
  const near = { ...stroke(150, 95, 60), gate: { near: 0, far: 0.62 } }
  const edit = { id: '1', kind: 'donor', frame: 'frame_005.jpg', ...near }
  const base = await readSamples(at('result.tif'))
  const share = ({ samples }: typeof base) => {
    let changed = 0
    for (let i = 0; i < samples.length; i += 3) changed += Number([0, 1, 2].some((c) => samples[i + c] !== base.samples[i + c]))
    return changed
  }
  const whole = share(await mended([{ ...edit, gate: undefined }]))
  const given = share(await mended([edit], { args: ['--depth', at('depth.png')] }))
  const found = share(await mended([edit]))
  expect(given).toBeGreaterThan(0.05 * whole)
  expect(given).toBeLessThan(0.95 * whole)
  expect(Math.abs(found - given)).toBeLessThan(0.25 * whole)
  expect(share(await mended([edit, { id: '2', kind: 'undo', of: '1' }]))).toBe(0)
  await mended([edit, { id: 'h', kind: 'heal', ...stroke(60, 60, 6) }], { out: 'a.tif' })
  await mended([edit, { id: 'h', kind: 'heal', ...stroke(60, 60, 6) }], { out: 'b.tif' })
  expect(readFileSync(at('a.tif')).equals(readFileSync(at('b.tif')))).toBe(true)
})

test.each([
  [[{ id: '1', kind: 'donor', frame: 'other.jpg', ...stroke(10, 10, 5) }], 'mend.frameUnknown'],
  [[{ id: '1', kind: 'donor', frame: 'frame_001.jpg', ...stroke(9000, 10, 5) }], 'mend.outside'],
  [[{ id: '1', kind: 'heal', ...stroke(10, 10, 0) }], 'value.number.greater'],
  [[{ id: '1', kind: 'heal', ...stroke(10, 10, 1e9) }], 'value.number.max'],
  [[{ id: '1', kind: 'undo', of: '7' }], 'mend.undoUnknown'],
  [
    [
      { id: '1', kind: 'heal', ...stroke(10, 10, 5) },
      { id: '1', kind: 'heal', ...stroke(10, 10, 5) },
    ],
    'mend.twice',
  ],
  [[{ id: '1', kind: 'render', file: 'nothing.tif', ...stroke(10, 10, 5) }], 'picture.missing'],
])('%j is refused, and nothing is written', (edits, code) => {
  writeFileSync(at('bad.json'), JSON.stringify({ base: 'fused', edits }))
  const out = at('bad.tif')
  expectRefused(
    nitidus(['mend', at('frames'), '--report', at('report.json'), '--base', at('result.tif'), '--edits', at('bad.json'), '--out', out]),
    code,
  )
  expect(() => readFileSync(out)).toThrow()
})
