import { both, everySize, expectAlike, fill } from './testKernels'
import { PAIR_numbers, type Workspace } from '.'

describe('what compares pictures does what the plain kernels do, at every size', () => {
  test('mix, squareApart, subtract and lesser', () =>
    everySize(({ width, height, seed }) => {
      const call = (space: Workspace, more: (planes: number[], stride: number) => number[]) => {
        const [a, b, c] = [0, 1, 2].map((k) => fill(space, width, height, seed + k))
        return { args: more([a.at, b.at, c.at], a.stride), rows: height, out: [c] }
      }
      expectAlike(both('mix', width, (space) => call(space, ([a, b, out], stride) => [a, b, (seed % 7) / 6, out, stride])))
      expectAlike(both('squareApart', width, (space) => call(space, ([a, b, lit], stride) => [a, b, lit, lit, stride])))
      expectAlike(both('subtract', width, (space) => call(space, ([a, b, out], stride) => [a, b, out, stride])))
      expectAlike(both('lesser', width, (space) => call(space, ([a, , out], stride) => [a, out, stride])))
    }))

  test('addAllSeen, turned, scaled and moved', () =>
    everySize(({ width, height, seed }) => {
      const [a, b, u, v] = [0.98, (seed % 5) / 100 - 0.02, (seed % 7) - 2.4, (seed % 3) - 0.8]
      const across = Math.ceil(width / 8)
      const inside = (x: number, y: number) => {
        const [qx, qy] = [a * x - b * y + u + 0.5, b * x + a * y + v + 0.5]
        return qx > 0.01 && qy > 0.01 && qx < width - 0.01 && qy < height - 0.01
      }
      expectAlike(
        both('addAllSeen', width, (space) => {
          const [values, sums, ...weights] = [0, 1, 2, 3].map((k) => ({ ...fill(space, width, height, seed + k), stride: width }))
          const [bounds, pairs] = [space.bytes(8 * height), space.bytes(16 * PAIR_numbers)]
          const numbers = weights.flatMap(({ at }) => [at, bounds, a, b, u, v])
          new Float64Array(space.kernels.buffer(), pairs, numbers.length).set(numbers)
          for (let y = 0; y < height; y++) {
            const columns = Array.from({ length: width }, (_, x) => x).filter((x) => inside(x, y))
            new Int32Array(space.kernels.buffer(), bounds, 2 * height).set(columns.length > 0 ? [columns[0], columns.at(-1)! + 1] : [0, 0], 2 * y)
          }
          return { args: [values.at, width, across, pairs, weights.length, sums.at], rows: height, out: [sums] }
        }),
      )
    }))
})
