import { both, everySize, expectAlike } from './testKernels'
import { PIECE_places } from '.'

test('the strength of a stroke', () =>
  everySize(({ width, height, seed }) => {
    const random = (k: number) => ((seed * 7919 + k * 104729) % 1000) / 1000
    for (const [core, opacity] of [
      [0, 1],
      [4, 0.6],
    ])
      expectAlike(
        both('strokeStrength', width, (space) => {
          const [list, out] = [space.bytes(4 * PIECE_places * 3), space.bytes(4 * width * height)]
          const pieces = [0, 1, 2].flatMap((k) => {
            const [ux, uy] = k === 2 ? [0, 0] : [20 * random(k) - 10, 20 * random(k + 9) - 10]
            return [
              Math.floor(40 * random(k + 3)),
              random(k + 4),
              Math.floor(30 * random(k + 5)),
              random(k + 6),
              ux,
              uy,
              k === 2 ? 0 : 1 / (ux ** 2 + uy ** 2),
            ]
          })
          new Float32Array(space.kernels.buffer(), list, pieces.length).set(pieces)
          const slab = { at: out, width, height, stride: width, bytes: 4 as const }
          return { args: [list, 3, 9, core, opacity, out, width], rows: height, out: [slab] }
        }),
        2e-5,
      )
  }))
