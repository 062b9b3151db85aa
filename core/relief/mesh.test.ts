import { meshOf, triangleIndices } from '.'

const depth = { width: 3, height: 2, times: 2, data: Float32Array.from([0, 1, 2, 0, 1, 2]) }
const picture = { width: 6, height: 4, samples: Uint16Array.from({ length: 72 }, (_, i) => (i % 3 === 0 ? 65535 : 257)) }
const mesh = meshOf(depth, picture, { x: 0, y: 0, width: 6, height: 4 }, { rise: 2, pixel: () => 0.5 })

test('a mesh has a vertex to a pixel, near parts high, y upwards', () => {
  expect([mesh.columns, mesh.rows]).toEqual([6, 4])
  expect([...mesh.places.subarray(0, 6)]).toEqual([-1.25, 0.75, -0, -0.75, 0.75, -0])
  expect(mesh.places[5 * 3 + 2]).toBe(-4)
  expect([...mesh.colours.subarray(0, 3)]).toEqual([255, 1, 1])
})

test('a large picture is thinned out', () => {
  const wide = { width: 2000, height: 10, samples: new Uint8Array(2000 * 10 * 3) }
  const { columns, rows } = meshOf(
    { width: 1000, height: 5, times: 2, data: new Float32Array(5000) },
    wide,
    { x: 0, y: 0, width: 2000, height: 10 },
    { rise: 1, pixel: () => 1 },
  )
  expect(columns).toBeLessThanOrEqual(481)
  expect(rows).toBe(2)
})

test('what lies farther away is as much wider as a pixel there is larger', () => {
  const sloped = meshOf(depth, picture, { x: 0, y: 0, width: 6, height: 4 }, { rise: 1, pixel: (deep) => 1 + deep })
  expect(sloped.places[0]).toBe(-2.5)
  expect(sloped.places[5 * 3]).toBe(7.5)
})

test('triangles turn left, so that lit surfaces face the viewer', () => {
  const [a, b, c] = triangleIndices(mesh)
  const at = (v: number) => mesh.places.subarray(3 * v, 3 * v + 2)
  const [p, q, r] = [at(a), at(b), at(c)]
  expect((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])).toBeGreaterThan(0)
  expect(triangleIndices(mesh)).toHaveLength(6 * 5 * 3)
})
