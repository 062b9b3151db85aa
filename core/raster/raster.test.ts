import fc from 'fast-check'
import {
  apply,
  collapse,
  commonRectangle,
  compose,
  cornerDistance_px,
  createPlane,
  cropPlane,
  expand,
  fromInterleaved,
  gaussianPyramid,
  IDENTITY,
  invert,
  laplacianPyramid,
  luma,
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

  test('a crop holds the rows and columns asked for', () => {
    const source = plane(6, 5, (x, y) => 10 * y + x)
    expect([...cropPlane(source, { x: 2, y: 1, width: 2, height: 2 }).data]).toEqual([12, 13, 22, 23])
    const picture = { width: 6, height: 5, planes: [source, source, source] as [Plane, Plane, Plane] }
    expect(
      toInterleaved16(
        { ...picture, planes: [source, source, source].map((p) => ({ ...p, data: p.data.map((v) => v / 100) })) as [Plane, Plane, Plane] },
        { x: 0, y: 4, width: 1, height: 1 },
      )[2],
    ).toBe(26214)
  })
})

describe('pyramids', () => {
  test.each([
    [64, 48],
    [65, 47],
    [33, 5],
    [7, 1],
  ])('a Laplacian pyramid of %d × %d collapses to what it was made of', (width, height) => {
    const source = plane(width, height, (x, y) => waves(x, y) + ((x * 31 + y * 17) % 7) / 20)
    const rebuilt = collapse(laplacianPyramid(source, 3))
    expect(rebuilt.data.every((value, i) => Math.abs(value - source.data[i]) < 1e-5)).toBe(true)
  })

  test('an even plane stays even through reduce, expand and smooth', () => {
    const even = plane(21, 14, () => 0.37)
    for (const value of [...reduce(even).data, ...expand(even, 42, 28).data, ...smooth(even).data]) expect(value).toBeCloseTo(0.37, 6)
  })

  test('each level is half the one before, rounded up', () => {
    expect(gaussianPyramid(createPlane(101, 40), 3).map(({ width, height }) => [width, height])).toEqual([
      [101, 40],
      [51, 20],
      [26, 10],
      [13, 5],
    ])
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
