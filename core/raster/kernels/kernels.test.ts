import * as fc from 'fast-check'
import { bendNet, IDENTITY, netSize, readingFor, SHARPNESS, WHOLE_WEIGHT, wholeTaps, type Bend } from '..'
import { at, both, everySize, expectAlike, fill, size, type Size } from './testKernels'
import { POINT, POINTS_EACH, type Workspace } from '.'

/** A fine and a coarse level of three channels each. */
function levels(space: Workspace, { width, height, seed }: Size, bytes: 2 | 4) {
  const fine = [0, 1, 2].map((k) => fill(space, width, height, seed + k, bytes))
  const coarse = [3, 4, 5].map((k) => fill(space, (width + 1) >> 1, (height + 1) >> 1, seed + k))
  const band = [...at(fine), bytes, fine[0].stride, ...at(coarse), coarse[0].stride, coarse[0].height, width]
  return { fine, coarse, band }
}

/** A plane of whole steps with a sign, of 16 bits. */
function means(space: Workspace, width: number, height: number, seed: number) {
  const slab = fill(space, width, height, seed, 2)
  space.steps(slab).forEach((value, i, all) => (all[i] = value / 2))
  return slab
}

/** A bend that goes from nothing at the upper left to so many px at the lower right. */
function bentBy(most_px: number, width: number, height: number): Bend {
  const corners = Float32Array.of(0, most_px / 2, most_px / 2, most_px)
  return { left_px: 0, top_px: 0, spacingX_px: width, spacingY_px: height, columns: 2, rows: 2, x_px: corners, y_px: corners }
}

describe('the compiled kernels do what the plain ones do, at every size', () => {
  test.each([2, 4] as const)('reduce, from %d bytes a place, written and added', (bytes) =>
    everySize(({ width, height, seed }) => {
      for (const add of [0, 1])
        expectAlike(
          both('reduce', width, (space) => {
            const [source, out] = [fill(space, width, height, seed, bytes), fill(space, (width + 1) >> 1, (height + 1) >> 1, seed + 1)]
            return { args: [source.at, bytes, source.stride, width, height, out.at, out.stride, add], rows: out.height, out: [out] }
          }),
        )
    }),
  )

  test('expand, written and added', () =>
    everySize(({ width, height, seed }) => {
      for (const add of [0, 1])
        expectAlike(
          both('expand', width, (space) => {
            const [coarse, out] = [fill(space, (width + 1) >> 1, (height + 1) >> 1, seed), fill(space, width, height, seed + 1)]
            return { args: [coarse.at, coarse.stride, coarse.height, out.at, out.stride, width, 0.3, add], rows: height, out: [out] }
          }),
        )
    }))

  test.each(['smooth', 'squaredGradient'] as const)('%s', (name) =>
    everySize(({ width, height, seed }) =>
      expectAlike(
        both(name, width, (space) => {
          const [source, out] = [fill(space, width, height, seed), space.plane(width, height)]
          return { args: [source.at, source.stride, width, height, out.at], rows: height, out: [out] }
        }),
      ),
    ),
  )

  test('gradients', () =>
    everySize(({ width, height, seed }) =>
      expectAlike(
        both('gradients', width, (space) => {
          const [source, soft] = [fill(space, width, height, seed), fill(space, width, height, seed + 1)]
          const out = [0, 1, 2].map(() => space.plane(width, height))
          return { args: [source.at, soft.at, (seed % 5) / 4, source.stride, width, height, ...at(out)], rows: height, out }
        }),
      ),
    ))

  test.each([2, 4] as const)('energy and weighted sums of bands, from %d bytes a place', (bytes) =>
    everySize((facts) => {
      const { width, height, seed } = facts
      expectAlike(
        both('energy', width, (space) => {
          const { band } = levels(space, facts, bytes)
          const out = space.plane(width, height)
          return { args: [...band, height, seed % 5, out.at], rows: height, out: [out] }
        }),
      )
      for (const [power, begun] of [
        [0, 1],
        [3, 0],
      ])
        expectAlike(
          both(bytes === 2 ? 'average' : 'accumulate', width, (space) => {
            const { fine, coarse } = levels(space, facts, bytes)
            const band = [...at(fine), fine[0].stride, ...at(coarse), coarse[0].stride, coarse[0].height, width]
            const [weight, total] = [6, 7].map((k) => fill(space, width, height, seed + k))
            const out = [8, 9, 10].map((k) => (bytes === 2 ? means(space, width, height, seed + k) : fill(space, width, height, seed + k)))
            const kept = bytes === 2 ? [total.at, 20_000, seed % 2, begun] : [total.at, begun]
            return { args: [...band, weight.at, 2.5, 0.7, power, ...at(out), ...kept], rows: height, out: [...out, total], signed: true }
          }),
          // A weight of up to 3.5^3 multiplies the rounding of the small difference beside it; whole steps may be rounded to either side.
          bytes === 2 ? 1.01 : 4e-6 * Math.max(1, 3.5 ** power),
          bytes === 2,
        )
    }),
  )

  test('weights, sums at the top, quotients', () =>
    everySize(({ width, height, seed }) => {
      const planes = (space: Workspace, count: number) => Array.from({ length: count }, (_, k) => fill(space, width, height, seed + k))
      expectAlike(
        both('raise', width, (space) => {
          const [a] = planes(space, 1)
          return { args: [a.at, a.stride, 2.5, 0.7, 4], rows: height, out: [a] }
        }),
      )
      expectAlike(
        both('divide', width, (space) => {
          const [a, b] = planes(space, 2)
          space.view(b).forEach((value, i, all) => (all[i] = value + 0.1))
          return { args: [a.at, b.at, a.stride], rows: height, out: [a] }
        }),
      )
      for (const begun of [0, 1])
        expectAlike(
          both('accumulateTop', width, (space) => {
            const all = planes(space, 8)
            const [red, green, blue, weight, ...out] = all
            return { args: [...at([red, green, blue]), red.stride, weight.at, ...at(out), begun], rows: height, out }
          }),
        )
    }))

  test('the peak of the energies, frame after frame', () =>
    everySize(({ width, height, seed }) => {
      for (const begun of [0, 1])
        expectAlike(
          both('peak', width, (space) => {
            const [energy, ...out] = [0, 1, 2, 3, 4, 5, 6].map((k) => fill(space, width, height, seed + k))
            // Some places have the last frame as their best.
            space.view(out[1]).forEach((value, i, all) => (all[i] = value > 0.5 ? 6 : 5))
            return { args: [energy.at, ...at(out), energy.stride, 7, 6, begun], rows: height, out }
          }),
        )
    }))

  test('pyramids put together, and delivered in 16 bits', () =>
    everySize((facts) => {
      const { width, height, seed } = facts
      const above = (space: Workspace, k: number) => {
        const slab = fill(space, width, height, seed + k)
        space.view(slab).forEach((value, i, all) => (all[i] = value + 0.5))
        return slab
      }
      expectAlike(
        both('collapse', width, (space) => {
          const { coarse } = levels(space, facts, 4)
          const [sum, total] = [above(space, 6), above(space, 7)]
          return { args: [coarse[0].at, coarse[0].stride, coarse[0].height, sum.at, total.at, sum.stride, width], rows: height, out: [sum] }
        }),
      )
      const [twin, compiled] = both('deliver', width, (space) => {
        const { coarse } = levels(space, facts, 4)
        const finest = [6, 7, 8].map((k) => means(space, width, height, seed + k))
        const out = { ...space.plane(width * 3, height, 2), stride: width * 3 }
        const args = [...at(coarse), coarse[0].stride, coarse[0].height, ...at(finest), finest[0].stride, width, 32_767, out.at]
        return { args, rows: height, out: [out] }
      })
      twin.forEach((value, i) => expect(Math.abs(value - compiled[i])).toBeLessThanOrEqual(1))
    }))

  test.each([Uint8Array, Uint16Array])('warp and luma of %p', (Kind) => {
    const wide = Kind === Uint16Array
    const most = wide ? 65535 : 255
    const samples = (space: Workspace, { width, height, seed }: Size) => {
      const place = space.bytes(width * height * 3 * Kind.BYTES_PER_ELEMENT + 128)
      new Kind(space.kernels.buffer(), place, width * height * 3).forEach((_, i, data) => (data[i] = (i * 7919 + seed * 31) % (most + 1)))
      return place
    }
    everySize((facts) => {
      const { width, height } = facts
      for (const encoded of [0, 1])
        expectAlike(
          both('luma', width, (space) => {
            const [place, out] = [samples(space, facts), space.plane(width, height)]
            return { args: [place, Number(wide), encoded, out.at, out.stride, width], rows: height, out: [out] }
          }),
        )
    })
    everySize(({ width, height, seed }) => {
      const [left, top] = [seed % width, seed % height]
      const [twin, compiled] = both('interleave', width, (space) => {
        const planes = [0, 1, 2].map((channel) => {
          const slab = space.plane(width, height, 2)
          new Uint16Array(space.kernels.buffer(), slab.at, slab.stride * height).forEach((_, i, all) => (all[i] = i * 7919 + channel))
          return slab
        })
        const rows = height - top
        const out = { ...space.plane(3 * (width - left), rows, 2), stride: 3 * (width - left) }
        return { args: [...at(planes), planes[0].stride, left, top, width - left, out.at], rows, out: [out] }
      })
      expect(twin).toEqual(compiled)
    })
    const within = (most: number) => fc.double({ min: -most, max: most, noNaN: true })
    const moved = { ...size, dx: within(9), turn: within(0.02), bent: fc.option(within(3)) }
    fc.assert(
      fc.property(fc.record(moved), ({ dx, turn, bent, ...facts }) => {
        const { width, height } = facts
        const [twin, compiled] = both('warpSamples', width, (space) => {
          const taps = wholeTaps()
          const tapsAt = space.bytes(taps.byteLength)
          new Int16Array(space.kernels.buffer(), tapsAt, taps.length).set(taps)
          const out = [0, 1, 2].map(() => space.plane(width, height, 2))
          const motion = { scale: 1.01, rotation_rad: turn, dx_px: dx, dy_px: -dx / 2 }
          const { startU, acrossU, downU, startV, acrossV, downV } = readingFor(motion, width, height)
          const reading = [startU, acrossU, downU, startV, acrossV, downV]
          const bends = bent === null ? 0 : space.bytes(8 * netSize(width, height).columns * netSize(width, height).rows)
          if (bent !== null) new Float32Array(space.kernels.buffer(), bends).set(bendNet(bentBy(bent, width, height), motion, width, height))
          const gain = 65535 / most / WHOLE_WEIGHT
          const args = [samples(space, facts), Number(wide), ...at(out), out[0].stride, width, height, ...reading, gain, SHARPNESS, tapsAt, bends]
          return { args, rows: height, out }
        })
        // A place counted in f32 may differ by 10⁻⁷ px, a value of such rough samples by a few of 65535.
        twin.forEach((value, i) => expect(Math.abs(value - compiled[i])).toBeLessThanOrEqual(4))
      }),
      { numRuns: 30 },
    )
  })

  // The last block is not full.
  const COUNT = 300
  const BLOCKS = Math.ceil(COUNT / POINTS_EACH)
  test('points to align on: collected, sampled, summed', () =>
    everySize(({ width, height, seed }) => {
      const points = (space: Workspace, count: number) => {
        const place = space.bytes(count * POINT.size * 4)
        const values = new Float32Array(space.kernels.buffer(), place, count * POINT.size)
        values.forEach((_, i) => (values[i] = (((i * 7919 + seed) % 997) / 997 - 0.5) * (i % POINT.size < 2 ? width : 1)))
        return place
      }
      expectAlike(
        both('collect', width, (space) => {
          const planes = [0, 1, 2, 3].map((k) => fill(space, width, height, seed + k))
          const [place, count] = [space.bytes(50 * POINT.size * 4), space.bytes(8)]
          return { args: [...at(planes), planes[0].stride, width, height, 0.5, place, 50, count], rows: 1, sums: [count, 1] }
        }),
      )
      expectAlike(
        both('sampleAt', width, (space) => {
          const [image, place] = [fill(space, width, height, seed), points(space, COUNT)]
          const [samples, sums] = [space.bytes(COUNT * 4), space.bytes(BLOCKS * 6 * 8)]
          const motion = [1.01, 0.02, (width - 1) / 2 + 0.3, (height - 1) / 2 - 0.2]
          return { args: [place, COUNT, image.at, image.stride, width, height, ...motion, samples, sums], rows: BLOCKS, sums: [sums, BLOCKS * 6] }
        }),
      )
      expectAlike(
        both('normalSums', width, (space) => {
          const [samples, sums, place] = [fill(space, COUNT, 1, seed), space.bytes(BLOCKS * 14 * 8), points(space, COUNT)]
          space.view(samples)[3] = NaN
          return { args: [place, COUNT, samples.at, 0.9, 0.05, 1.4, 2 / width, sums], rows: BLOCKS, sums: [sums, BLOCKS * 14] }
        }),
      )
    }))
})

test('whole weights add up to one at every phase, so that nothing becomes lighter or darker', () => {
  const taps = wholeTaps()
  for (let phase = 0; phase < taps.length / 4; phase++)
    expect(taps.subarray(4 * phase, 4 * phase + 4).reduce((sum, weight) => sum + weight, 0)).toBe(WHOLE_WEIGHT)
  expect(readingFor(IDENTITY, 7, 5).acrossV).toBe(0)
})
