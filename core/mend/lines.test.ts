import { linesByDepth, strokeMask, strokeOver } from '.'
import { WasmKernels, Workspace } from '../raster/kernels'

test('a line lies where near goes over into far, in every column, though single places are wrong', () => {
  const [width, height] = [200, 120]
  const data = new Uint16Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data[y * width + x] = (y > 40 + x / 5 ? 0.1 : 0.9) * 65535 * ((x * 7 + y * 13) % 11 === 0 ? 0 : 1)
  const [line] = linesByDepth({ width, height, data, most: 65535 }, [0.5])
  expect(line[0][0]).toBe(0)
  expect(line.at(-1)![0]).toBe(width - 1)
  for (const [x, y] of line) expect(Math.abs(y - (40 + x / 5))).toBeLessThanOrEqual(3)
})

test('lines of several depths lie over one another; where all is far the line lies at the bottom', () => {
  const [width, height] = [60, 100]
  const data = Float32Array.from({ length: width * height }, (_, i) => 1 - Math.floor(i / width) / (height - 1))
  const [near, far] = linesByDepth({ width, height, data, most: 1 }, [0.25, 0.75])
  near.forEach(([, y], k) => {
    expect(Math.abs(y - 75)).toBeLessThanOrEqual(2)
    expect(Math.abs(far[k][1] - 25)).toBeLessThanOrEqual(2)
  })
  const [none] = linesByDepth({ width, height, data: data.map(() => 1), most: 1 }, [0.5])
  for (const [, y] of none) expect(y).toBe(height - 1)
})

test.each([
  [10, 20, 40, 16],
  [10, 20, 16, 40],
  [5, 5, 20, 20],
])('a stroke over %d, %d, %d × %d covers its middle line fully and ends soon beyond', (x, y, width, height) => {
  const part = { x: 0, y: 0, width: 80, height: 80 }
  const { strength } = strokeMask(strokeOver({ x, y, width, height }), part, new Workspace(new WasmKernels(), 80))
  const at = (px: number, py: number) => strength[Math.round(py) * 80 + Math.round(px)]
  expect(at(x + width / 2, y + height / 2)).toBe(1)
  if (width >= height) expect([at(x + height / 2, y + height / 2), at(x + width - height / 2, y + height / 2)]).toEqual([1, 1])
  else expect([at(x + width / 2, y + width / 2), at(x + width / 2, y + height - width / 2)]).toEqual([1, 1])
  expect(at(x + width + 6, y + height / 2)).toBe(0)
})
