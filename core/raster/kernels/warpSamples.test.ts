import { createPicture, toInterleaved16, type Picture } from '../plane'
import { IDENTITY, type Similarity } from '../similarity'
import { cubicTaps, warpPicture } from '../warp'
import { warpSamples } from './twin'

const [WIDTH, HEIGHT] = [90, 60]

/** Soft waves in three colours. */
function waves(): Picture {
  const picture = createPicture(WIDTH, HEIGHT)
  picture.planes.forEach(({ data }, c) => {
    for (let i = 0; i < data.length; i++) data[i] = 0.5 + 0.3 * Math.sin((i % WIDTH) * (0.21 + 0.05 * c)) * Math.cos(Math.floor(i / WIDTH) * 0.17)
  })
  return picture
}

function warped(picture: Picture, { scale, rotation_rad, dx_px, dy_px }: Similarity, gain = 1): Float32Array[] {
  const planes = [0, 1, 2].map(() => new Float32Array(WIDTH * HEIGHT))
  const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
  const [cx, cy] = [(WIDTH - 1) / 2, (HEIGHT - 1) / 2]
  const [startX, startY] = [-a * cx + b * cy + dx_px + cx, -b * cx - a * cy + dy_px + cy]
  const [red, green, blue] = planes
  const none = new Float32Array(0)
  warpSamples(toInterleaved16(picture), red, green, blue, WIDTH, HEIGHT, a, b, startX, startY, gain / 65535, cubicTaps(), none, 1, 0, HEIGHT)
  return planes
}

test.each<[string, Similarity]>([
  ['nothing', IDENTITY],
  ['a shift by parts of a pixel', { ...IDENTITY, dx_px: 2.37, dy_px: -1.61 }],
  ['breathing', { ...IDENTITY, scale: 1.08 }],
  ['a turn of half a degree', { ...IDENTITY, rotation_rad: 0.0087, dx_px: 0.4 }],
])('%s: columns before rows come to what both at once do, three thousandths at the most', (_, motion) => {
  const exact = warpPicture(waves(), motion).planes
  warped(waves(), motion).forEach((plane, c) => plane.forEach((value, i) => expect(Math.abs(value - exact[c].data[i])).toBeLessThan(0.003)))
})

test('gain is a factor, and beyond the frame its edge is repeated', () => {
  const [once, twice] = [warped(waves(), IDENTITY), warped(waves(), IDENTITY, 1.5)]
  once[1].forEach((value, i) => expect(twice[1][i]).toBeCloseTo(1.5 * value, 5))
  const [far] = warped(waves(), { ...IDENTITY, dx_px: 500 })
  for (let y = 0; y < HEIGHT; y++) expect(far[y * WIDTH]).toBeCloseTo(once[0][y * WIDTH + WIDTH - 1], 4)
})
