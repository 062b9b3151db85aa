import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { meshOf } from '@/core/relief'
import { solidFile, type SolidEnding } from '.'

const folder = mkdtempSync(path.join(tmpdir(), 'solids-'))
afterAll(() => rmSync(folder, { recursive: true }))

const depth = { width: 3, height: 2, times: 2, data: Float32Array.from([0, 1, 2, 0, 1, 2]) }
const picture = { width: 6, height: 4, samples: Uint16Array.from({ length: 72 }, (_, i) => [65535, 257, 128 * 257][i % 3]) }
const mesh = meshOf(depth, picture, { x: 0, y: 0, width: 6, height: 4 }, { rise: 2, pixel: () => 0.5 })
const text = async (ending: SolidEnding) => (await solidFile(ending, mesh, 'all in mm')) as string

test('PLY says what its numbers mean, and holds every vertex with the picture’s colour, and two triangles to a cell', async () => {
  const lines = (await text('ply')).trim().split(/\r?\n/)
  expect(lines.slice(0, 3)).toEqual(['ply', 'format ascii 1.0', 'comment all in mm'])
  expect(lines).toEqual(expect.arrayContaining(['element vertex 24', 'element face 30', 'property uchar red']))
  const body = lines.slice(lines.indexOf('end_header') + 1)
  expect(body).toHaveLength(24 + 30)
  expect(body[1].split(' ').map(Number)).toEqual([-0.75, 0.75, 0, 255, 1, 128])
  expect(body[24]).toBe('3 0 6 1')
})

test('OBJ holds the same, its colours as parts', async () => {
  const lines = (await text('obj')).split('\n')
  expect(lines[0]).toBe('# all in mm')
  const vertices = lines.filter((line) => line.startsWith('v '))
  expect(vertices).toHaveLength(24)
  const [x, y, z, ...colour] = vertices[1].slice(2).split(' ').map(Number)
  expect([x, y, Math.abs(z)]).toEqual([-0.75, 0.75, 0])
  expect(colour.map((part) => Math.round(255 * part))).toEqual([255, 1, 128])
  expect(lines.filter((line) => line.startsWith('f '))).toHaveLength(30)
})

test.each(['ply', 'obj', 'stl'] as const)('%s is read by another program: as wide, as high and as deep as it is', async (ending) => {
  const file = path.join(folder, `relief.${ending}`)
  writeFileSync(file, await solidFile(ending, mesh, 'all in mm'))
  const told = execFileSync('assimp', ['info', file], { encoding: 'utf8' })
  expect(told).toMatch(/Faces:\s+30\b/)
  const corner = (name: string) => new RegExp(`${name}\\s+point\\s+\\((\\S+) (\\S+) (\\S+)\\)`, 'i').exec(told)!.slice(1).map(Number)
  expect(corner('Minimum')).toEqual([-1.25, -0.75, -4])
  expect(corner('Maximum').map((at) => at + 0)).toEqual([1.25, 0.75, 0])
})
