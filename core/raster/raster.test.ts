import fc from 'fast-check'
import {
  apply,
  commonRectangle,
  compose,
  cornerDistance_px,
  createPlane,
  fromInterleaved,
  IDENTITY,
  invert,
  luma,
  motionWithin,
  reduce,
  smooth,
  toInterleaved16,
  warpPicture,
  warpPlane,
  type Plane,
  type Similarity,
} from '.'

/** A plane with the values of f(x, y). */
function plane(width: number, height: number, f: (x: number, y: number) => number): Plane {
  const out = createPlane(width, height)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out.data[y * width + x] = f(x, y)
  return out
}

const waves = (x: number, y: number) => 0.5 + 0.2 * Math.sin(x * 0.21 + y * 0.05) + 0.15 * Math.cos(y * 0.17 - x * 0.03)

const anyMotion = fc.record({
  scale: fc.double({ min: 0.8, max: 1.25, noNaN: true }),
  rotation_rad: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
  dx_px: fc.double({ min: -50, max: 50, noNaN: true }),
  dy_px: fc.double({ min: -50, max: 50, noNaN: true }),
})

describe('samples in and out', () => {
  test('8 and 16 bits become 0 … 1 and 16 bits come back unchanged', () => {
    const samples = Uint16Array.from({ length: 4 * 3 * 3 }, (_, i) => (i * 7919) % 65536)
    expect(toInterleaved16(fromInterleaved(samples, 4, 3))).toEqual(samples)
    const bytes = Uint8Array.from([0, 128, 255])
    expect([...toInterleaved16(fromInterleaved(bytes, 1, 1))]).toEqual([0, 128 * 257, 65535])
  })

  test('values beyond the range are clipped, not wrapped', () => {
    const picture = fromInterleaved(new Uint8Array([0, 0, 0]), 1, 1)
    picture.planes[0].data[0] = 1.7
    picture.planes[1].data[0] = -0.4
    expect([...toInterleaved16(picture)]).toEqual([65535, 0, 0])
  })

  test('luma of grey is that grey', () => {
    const grey = fromInterleaved(new Uint8Array([90, 90, 90]), 1, 1)
    expect(luma(grey).data[0]).toBeCloseTo(90 / 255, 6)
  })
})

describe('filters', () => {
  test('an even plane stays even through reduce and smooth', () => {
    const even = plane(21, 14, () => 0.37)
    for (const value of [...reduce(even).data, ...smooth(even).data]) expect(value).toBeCloseTo(0.37, 6)
  })

  test('reducing halves both sides, rounded up', () => {
    const { width, height } = reduce(createPlane(101, 40))
    expect([width, height]).toEqual([51, 20])
  })

  test('reducing weighs five by five places as 1 4 6 4 1, mirrored at the border, at every size', () => {
    const taps = [1, 4, 6, 4, 1]
    // Pictures narrower than the taps reach end at their border.
    const mirrored = (k: number, size: number) => (k < 0 ? -k : k >= size ? 2 * size - 2 - k : k)
    const inside = (k: number, size: number) => Math.min(size - 1, Math.max(0, mirrored(k, size)))
    for (const [width, height] of [
      [1, 1],
      [2, 3],
      [3, 2],
      [4, 5],
      [5, 4],
      [12, 7],
      [13, 8],
    ]) {
      const fine = plane(width, height, (x, y) => Math.sin(3 * x + 1) + Math.cos(5 * y * (x + 2)))
      const coarse = reduce(fine)
      coarse.data.forEach((value, i) => {
        const [x, y] = [2 * (i % coarse.width), 2 * Math.floor(i / coarse.width)]
        let sum = 0
        taps.forEach((down, row) =>
          taps.forEach((across, column) => {
            const [u, v] = [inside(x + column - 2, width), inside(y + row - 2, height)]
            sum += (down * across * fine.data[v * width + u]) / 256
          }),
        )
        expect(value).toBeCloseTo(sum, 5)
      })
    }
  })

  test('smoothing keeps the sum away from the border and spreads a point as 1 4 6 4 1', () => {
    const point = createPlane(9, 9)
    point.data[4 * 9 + 4] = 1
    const spread = smooth(point)
    expect(spread.data.reduce((a, b) => a + b)).toBeCloseTo(1, 6)
    expect(spread.data[4 * 9 + 4]).toBeCloseTo(36 / 256, 6)
    expect(spread.data[4 * 9 + 2]).toBeCloseTo(6 / 256, 6)
  })
})

describe('motions', () => {
  test('a motion and its inverse cancel', () => {
    fc.assert(fc.property(anyMotion, (motion) => cornerDistance_px(compose(motion, invert(motion)), IDENTITY, 800, 600) < 1e-9))
  })

  test('a composed motion is one after the other', () => {
    fc.assert(
      fc.property(anyMotion, anyMotion, (outer, inner) => {
        const [x, y] = apply(outer, ...apply(inner, 120, -77))
        const [cx, cy] = apply(compose(outer, inner), 120, -77)
        expect(cx).toBeCloseTo(x, 8)
        expect(cy).toBeCloseTo(y, 8)
      }),
    )
  })

  test('positive rotation turns x towards y', () => {
    const [x, y] = apply({ ...IDENTITY, rotation_rad: Math.PI / 2 }, 1, 0)
    expect(x).toBeCloseTo(0, 12)
    expect(y).toBeCloseTo(1, 12)
  })

  test('corner distance of a shift is its length', () => {
    expect(cornerDistance_px({ ...IDENTITY, dx_px: 3, dy_px: -4 }, IDENTITY, 100, 50)).toBeCloseTo(5, 12)
  })
})

describe('warping', () => {
  test('standing still changes nothing', () => {
    const source = plane(40, 30, waves)
    warpPlane(source, IDENTITY).data.forEach((value, i) => expect(value).toBeCloseTo(source.data[i], 6))
  })

  test('out(p) = frame(motion(p)) for smooth pictures, well inside', () => {
    const motion: Similarity = { scale: 1.02, rotation_rad: 0.01, dx_px: 1.3, dy_px: -2.6 }
    const [width, height] = [120, 90]
    const moved = warpPlane(plane(width, height, waves), motion)
    for (let y = 12; y < height - 12; y += 7) {
      for (let x = 12; x < width - 12; x += 7) {
        const [qx, qy] = apply(motion, x - (width - 1) / 2, y - (height - 1) / 2)
        expect(moved.data[y * width + x]).toBeCloseTo(waves(qx + (width - 1) / 2, qy + (height - 1) / 2), 2)
      }
    }
  })

  test('all three planes move alike, and the edge is repeated beyond the frame', () => {
    const source = plane(20, 10, (x) => x / 20)
    const picture = { width: 20, height: 10, planes: [source, source, source] as [Plane, Plane, Plane] }
    const { planes } = warpPicture(picture, { ...IDENTITY, dx_px: 5 })
    expect(planes[0].data[0]).toBeCloseTo(5 / 20, 5)
    expect(planes[2].data[19]).toBeCloseTo(19 / 20, 5)
    expect(planes[1].data).toEqual(planes[0].data)
  })

  test('the common rectangle lies inside every frame', () => {
    fc.assert(
      fc.property(fc.array(anyMotion, { minLength: 1, maxLength: 5 }), (motions) => {
        const [width, height] = [900, 700]
        const common = commonRectangle(motions, width, height)
        if (common.width < 1 || common.height < 1) return
        for (const motion of motions) {
          for (const [x, y] of [
            [common.x, common.y],
            [common.x + common.width - 1, common.y],
            [common.x, common.y + common.height - 1],
            [common.x + common.width - 1, common.y + common.height - 1],
          ]) {
            const [qx, qy] = apply(motion, x - (width - 1) / 2, y - (height - 1) / 2)
            expect(Math.abs(qx)).toBeLessThanOrEqual((width - 1) / 2 + 1e-3)
            expect(Math.abs(qy)).toBeLessThanOrEqual((height - 1) / 2 + 1e-3)
          }
        }
      }),
    )
  })

  test('the common rectangle of frames that stand still is the whole picture', () => {
    expect(commonRectangle([IDENTITY], 30, 20)).toEqual({ x: 0, y: 0, width: 30, height: 20 })
  })
})

test('a motion within a part of the picture moves its pixels as the whole one does', () => {
  const motion: Similarity = { scale: 1.03, rotation_rad: 0.02, dx_px: 14.3, dy_px: -6.8 }
  const [width, height] = [900, 600]
  const part = { x: 610, y: 400, width: 120, height: 80 }
  const within = motionWithin(motion, part, width, height)
  for (const [px, py] of [
    [612, 402],
    [700, 470],
  ]) {
    const [wx, wy] = apply(motion, px - (width - 1) / 2, py - (height - 1) / 2)
    const [lx, ly] = apply(within.motion, px - part.x - (part.width - 1) / 2, py - part.y - (part.height - 1) / 2)
    expect(lx + (part.width - 1) / 2 + within.area.x).toBeCloseTo(wx + (width - 1) / 2, 9)
    expect(ly + (part.height - 1) / 2 + within.area.y).toBeCloseTo(wy + (height - 1) / 2, 9)
  }
  expect(Math.abs(within.motion.dx_px)).toBeLessThanOrEqual(0.5)
})
