import { WasmKernels, Workspace } from '../raster/kernels'
import { layDiscs } from './discs'
import { Levels } from './levels'

const kernels = new WasmKernels()

/** The rows of a disc as they lie in the memory: where each begins and ends, in places from its middle. */
function rowsOf(space: Workspace, list: number, step: number) {
  const [disc] = new Int32Array(space.kernels.buffer(), list + 4 * step, 1)
  const [reach] = new Int32Array(space.kernels.buffer(), disc, 1)
  const [, weight] = new Float32Array(space.kernels.buffer(), disc, 2)
  const wholes = new Int32Array(space.kernels.buffer(), disc + 16, 4 * (2 * reach + 1))
  const parts = new Float32Array(space.kernels.buffer(), disc + 16, 4 * (2 * reach + 1))
  const rows = Array.from({ length: 2 * reach + 1 }, (_, row) => ({
    left: wholes[4 * row] + parts[4 * row + 1],
    right: wholes[4 * row + 2] + parts[4 * row + 3],
  }))
  return { reach, weight, rows }
}

describe('discs of every radius up to four places', () => {
  const space = new Workspace(kernels, 0)
  const list = layDiscs(space)
  const discs = Array.from({ length: 65 }, (_, step) => ({ radius: step / 16, ...rowsOf(space, list, step) }))

  test('are as high as asked, even to both sides, and widest in the middle', () => {
    for (const { reach, rows } of discs) {
      rows.forEach(({ left, right }, row) => {
        // A place reaches half a place to both sides of its middle, so rows lie about one half.
        expect(left + right).toBeCloseTo(1, 5)
        expect(right - left).toBeCloseTo(rows[2 * reach - row].right - rows[2 * reach - row].left, 5)
        if (row > 0 && row <= reach) expect(right - left).toBeGreaterThanOrEqual(rows[row - 1].right - rows[row - 1].left - 1e-6)
      })
    }
  })

  test('weigh one over their area, so that none makes light or loses it', () => {
    for (const { weight, rows } of discs) expect(weight * rows.reduce((sum, { left, right }) => sum + right - left, 0)).toBeCloseTo(1, 5)
  })

  test('grow with their radius, without a jump', () => {
    const areas = discs.map(({ weight }) => 1 / weight)
    // A smaller one is a single place and a little of the next.
    for (let k = 17; k < areas.length; k++) {
      expect(areas[k]).toBeGreaterThan(areas[k - 1] - 0.05)
      expect(areas[k] - areas[k - 1]).toBeLessThan(2.5)
    }
    expect(areas.at(-1)! / (Math.PI * 16)).toBeCloseTo(1, 1)
  })
})

describe('a point of light, at whatever size of the picture it is spread', () => {
  /** What a point spreads over, on the mean of every place within a block. */
  function spreadOf(radius: number) {
    const side = 150
    const apart = 16
    let [sum, middleX, middleY, varianceX, varianceY] = [0, 0, 0, 0, 0]
    for (let x = 64; x < 64 + apart; x++) {
      const space = new Workspace(kernels, 0)
      const levels = new Levels(space, { x: 0, y: 0, width: side, height: side }, 130)
      const [colour, inverse, columns] = [space.bytes(4 * 16), space.bytes(4 * 4), space.bytes(8)]
      new Float32Array(kernels.buffer(), colour, 16).fill(1)
      new Float32Array(kernels.buffer(), inverse, 4).fill(1)
      new Int32Array(kernels.buffer(), columns, 2).set([x, x + 1])
      levels.begin()
      // One pixel of a surface of 2 × 2 samples, all the same and so far out of focus.
      kernels.run(
        'projectLight',
        [colour, inverse, 2, 2, 0, 0, columns, 1, 0, 0, 0, 0.5, 0.5, 1, 0, 0, 1, radius, 2, 1, x, x, levels.discs, levels.table],
        1,
      )
      levels.cover(false)
      levels.picture().forEach((value, i) => {
        if (i % 4 !== 3 || value === 0) return
        const [dx, dy] = [((i >> 2) % side) - x, Math.floor((i >> 2) / side) - x]
        const part = value / apart
        sum += part
        middleX += part * dx
        middleY += part * dy
        varianceX += part * dx ** 2
        varianceY += part * dy ** 2
      })
    }
    return { sum, middleX, middleY, varianceX, varianceY }
  }

  test.each([0, 0.5, 1, 1.9, 2.5, 3.25, 4.5, 5.75, 6.5, 9, 11, 14, 21, 30])('radius %d: light, middle and spread are those of the disc', (radius) => {
    const { sum, middleX, middleY, varianceX, varianceY } = spreadOf(radius)
    expect(sum).toBeCloseTo(1, 3)
    expect(Math.abs(middleX)).toBeLessThan(0.01)
    expect(Math.abs(middleY)).toBeLessThan(0.01)
    // The variance of an even disc along one side is r²/4; radii come in sixteenths of the places they are spread in.
    const ideal = radius ** 2 / 4
    for (const variance of [varianceX, varianceY]) expect(Math.abs(variance - ideal)).toBeLessThan(0.01 + 0.035 * ideal)
  })
})
