import { both, everySize, expectAlike, fill } from './testKernels'
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

test('laid over by a strength: alike to the bit, nothing where it is 0 and all where it is 1', () =>
  everySize(({ width, height, seed }) => {
    let before: number[] = []
    const [twin, compiled] = both('layOver', width, (space) => {
      // Three values a pixel, and no padding.
      const [below, above] = [0, 1].map((k) => {
        const at = space.bytes(6 * width * height)
        const values = new Uint16Array(space.kernels.buffer(), at, 3 * width * height)
        values.forEach((_, i) => (values[i] = (seed * 7919 + k * 30011 + i * 104729) % 65536))
        return { at, width: 3 * width, height, stride: 3 * width, bytes: 2 as const }
      })
      const strength = fill(space, width * height, 1, seed)
      const shares = space.view(strength)
      shares.forEach((_, i) => i % 3 !== 2 && (shares[i] = i % 3))
      before = [...new Uint16Array(space.kernels.buffer(), below.at, 3 * width * height)]
      const wanted = [...new Uint16Array(space.kernels.buffer(), above.at, 3 * width * height)]
      const after = () => before.forEach((_, o) => Math.floor(o / 3) % 3 === 1 && (before[o] = wanted[o]))
      return { args: [below.at, above.at, strength.at, width], rows: height, out: [below], after }
    })
    expect(compiled).toEqual(twin)
    compiled.forEach((value, o) => Math.floor(o / 3) % 3 !== 2 && expect(value).toBe(before[o]))
  }))
