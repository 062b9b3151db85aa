import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { writeGrey } from '@/codec'
import { depthArea, linesThrough, walkOver } from './depths'

const [WIDTH, HEIGHT] = [80, 60]
/** Far at the top, near at the bottom, in steps that no single byte can tell. */
const depthAt = (x: number, y: number) => 65000 - 900 * y + x
let folder: string
let file: string

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'depths-'))
  file = path.join(folder, 'depth.png')
  const data = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => depthAt(i % WIDTH, Math.floor(i / WIDTH)))
  await writeGrey(file, { width: WIDTH, height: HEIGHT, data }, 16)
})
afterAll(() => rmSync(folder, { recursive: true }))

test('a part of the depth is handed over to the last of its 16 bits; beyond the border it goes on level', async () => {
  const part = await depthArea(file, { x: 70, y: -4, width: 20, height: 16 })
  expect(part).toHaveLength(2 * 20 * 16)
  for (let v = 0, i = 0; v < 16; v++)
    for (let u = 0; u < 20; u++, i += 2) expect(part.readUInt16LE(i)).toBe(depthAt(Math.min(WIDTH - 1, 70 + u), Math.max(0, v - 4)))
})

test('lines are laid where the depth goes through what is asked for, in px of the picture', async () => {
  const lines = await linesThrough(file, [0.5, 0.8])
  expect(lines).toHaveLength(2)
  for (const [line, cut] of [
    [lines[0], 0.5],
    [lines[1], 0.8],
  ] as const)
    for (const [, y] of line) expect(Math.abs(y - (65000 - cut * 65535) / 900)).toBeLessThanOrEqual(2)
})

test('a walk begins at the bottom, where it is near, and ends at the top', async () => {
  const views = await walkOver(file, { width: 80, height: 20 })
  expect(views.map(({ y }) => y)).toEqual([40, 20, 0])
})
