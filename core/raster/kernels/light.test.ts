import { both, everySize, expectAlike } from './testKernels'
import type { Workspace } from '.'

/** A grid with light on a part of each row, some rows with none; what lies elsewhere is nothing. */
function grid(space: Workspace, width: number, height: number, seed: number) {
  const at = space.bytes((width + 2) * height * 16)
  const touched = space.bytes(height * 8)
  const lights = new Float32Array(space.kernels.buffer(), at, (width + 2) * height * 4)
  const rows = new Int32Array(space.kernels.buffer(), touched, height * 2)
  let state = seed + 1
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647
  for (let y = 0; y < height; y++) {
    const [a, b] = [Math.floor(random() * width), Math.floor(random() * (width + 1))]
    const [first, behind] = random() < 0.2 ? [width, 0] : [Math.min(a, b), Math.max(a, b)]
    rows.set(behind > first ? [first, behind] : [width, 0], 2 * y)
    for (let x = first; x < behind; x++) for (let c = 0; c < 4; c++) lights[4 * (y * (width + 2) + x) + c] = random() * (c === 3 ? 1.2 : 1) - 0.1
  }
  return { at, touched }
}

/** Runs a kernel on grids in both and compares light and touched rows. */
function compare(
  name: Parameters<typeof both>[0],
  width: number,
  height: number,
  call: (space: Workspace) => { args: number[]; at: number; touched: number },
) {
  const made = both(name, 8, (space) => {
    const { args, at, touched } = call(space)
    const count = (width + 2) * height * 4 + height * 2
    const sums: [number, number] = [space.bytes(count * 8), count]
    return { args, rows: height, sums, after: (buffer) => copyOut(buffer, at, touched, width, height, sums[0]) }
  })
  expectAlike(made)
}

function copyOut(buffer: ArrayBuffer, at: number, touched: number, width: number, height: number, to: number): void {
  const lights = new Float32Array(buffer, at, (width + 2) * height * 4)
  const rows = new Int32Array(buffer, touched, height * 2)
  const out = new Float64Array(buffer, to, lights.length + rows.length)
  out.set(lights)
  out.set(rows, lights.length)
}

describe('light on a grid is the same in both', () => {
  test('ends of rows become light', () =>
    everySize(({ width, height, seed }) =>
      compare('sumLight', width, height, (space) => {
        const { at, touched } = grid(space, width, height, seed)
        return { args: [at, touched, width], at, touched }
      }),
    ))

  test('a grid is made dark, used or fresh', () =>
    everySize(({ width, height, seed }) => {
      for (const fresh of [0, 1])
        compare('clearLight', width, height, (space) => {
          const { at, touched } = grid(space, width, height, seed)
          return { args: [at, touched, width, fresh], at, touched }
        })
    }))

  test('two grids are joined', () =>
    everySize(({ width, height, seed }) =>
      compare('joinLight', width, height, (space) => {
        const [{ at, touched }, other] = [grid(space, width, height, seed), grid(space, width, height, seed + 1)]
        return { args: [at, touched, width, other.at, other.touched], at, touched }
      }),
    ))

  test('a grid of half the size is added, wherever both begin', () =>
    everySize(({ width, height, seed }) => {
      for (const [left, top] of [
        [0, 0],
        [3, 6],
        [-5, -2],
      ])
        compare('enlargeLight', width, height, (space) => {
          const [coarseLeft, coarseTop] = [Math.floor(left / 2) - 1, Math.floor(top / 2) - 1]
          const [coarseWidth, coarseHeight] = [Math.ceil((left + width) / 2) + 1 - coarseLeft, Math.ceil((top + height) / 2) + 1 - coarseTop]
          const { at, touched } = grid(space, width, height, seed)
          const coarse = grid(space, coarseWidth, coarseHeight, seed + 1)
          return { args: [at, touched, width, left, top, coarse.at, coarse.touched, coarseWidth, coarseLeft, coarseTop], at, touched }
        })
    }))

  test('a surface covers what is there', () =>
    everySize(({ width, height, seed }) => {
      for (const backdrop of [0, 1])
        compare('coverLight', width, height, (space) => {
          const { at, touched } = grid(space, width, height, seed)
          // What is covered has rows without ends; it lies where a grid would.
          const below = grid(space, width, height, seed + 1)
          return { args: [below.at, at, touched, width, backdrop], at: below.at, touched }
        })
    }))
})
