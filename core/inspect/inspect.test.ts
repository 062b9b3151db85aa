import { createPlane, smooth, type Plane } from '../raster'
import { randomStream } from '../simulate'
import { Inspector, told, twoPeaks, type Finding } from '.'

const [WIDTH, HEIGHT, COUNT] = [240, 180, 12]

/** A plane of random grains; what is drawn over it is sharp in its own frame and softer by distance. */
const random = randomStream(3)
const grains = Float32Array.from({ length: WIDTH * HEIGHT }, () => random())
const soft = (plane: Plane, times: number) => Array.from({ length: times }).reduce<Plane>((p) => smooth(p), plane)
/** Fine and coarse alike, as subjects are. */
const coarse = soft({ width: WIDTH, height: HEIGHT, data: grains.toReversed() }, 12)
const texture: Plane = { width: WIDTH, height: HEIGHT, data: grains.map((value, i) => 0.3 + 0.2 * value + 3 * (coarse.data[i] - 0.5)) }

/** A series focused from left to right: each third of the picture is sharp in some frames. */
const blurs = Array.from({ length: 9 }, (_, k) => soft(texture, k))
const focusAt = (x: number) => 1 + ((COUNT - 3) * x) / WIDTH
function frame(k: number): Plane {
  const out = createPlane(WIDTH, HEIGHT)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const blur = Math.min(8, Math.round(1.6 * Math.abs(k - focusAt(x))))
      out.data[y * WIDTH + x] = blurs[blur].data[y * WIDTH + x]
    }
  return out
}
const frames = Array.from({ length: COUNT }, (_, k) => frame(k))
/** All sharp, as a fused picture should be. */
const fused = frame(0)
for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) fused.data[y * WIDTH + x] = frames[Math.round(focusAt(x))].data[y * WIDTH + x]

const copy = (plane: Plane): Plane => ({ ...plane, data: plane.data.slice() })
const inspect = (picture: Plane, series = frames) => {
  const inspector = new Inspector(picture)
  for (const each of series) inspector.add(each)
  return inspector.findings().map((finding) => ({ ...finding, place: inspector.inPicture(finding.cells) }))
}
const touches = ({ place }: { place: Finding['cells'] }, x: number, y: number) =>
  place.x <= x && x < place.x + place.width && place.y <= y && y < place.y + place.height

test('a picture that is right has no place above a half', () => {
  expect(inspect(fused).filter(({ severity }) => severity > 0.5)).toEqual([])
})

test('a part that moved in the frames that show it sharp is found, and a frame that shows it as most do is suggested', () => {
  // A disc slips by 7 px in frames 6 and 7; the picture shows both places.
  const moved = (plane: Plane) => {
    const out = copy(plane)
    for (let y = 60; y < 110; y++)
      for (let x = 110; x < 160; x++) if (Math.hypot(x - 135, y - 85) < 22) out.data[y * WIDTH + x] = plane.data[(y + 3) * WIDTH + x + 7]
    return out
  }
  const series = frames.map((plane, k) => (k === 6 || k === 7 ? moved(plane) : plane))
  const doubled = copy(fused)
  const away = moved(fused)
  doubled.data.forEach((value, i) => (doubled.data[i] = (value + away.data[i]) / 2))
  const ghost = inspect(doubled, series).find(({ kind }) => kind === 'ghost')!
  expect(touches(ghost, 135, 85)).toBe(true)
  expect(ghost.severity).toBeGreaterThan(0.5)
  expect(ghost.frames).toEqual(expect.arrayContaining([6, 7]))
  const { frame: suggested } = ghost.suggestion as { frame: number }
  expect([4, 5, 8]).toContain(suggested)
})

test('a place that one frame shows sharper is found, with that frame', () => {
  const softened = copy(fused)
  for (let y = 24; y < 72; y++) for (let x = 60; x < 96; x++) softened.data[y * WIDTH + x] = blurs[3].data[y * WIDTH + x]
  const found = inspect(softened).filter(({ kind }) => kind === 'soft')
  expect(found.some((place) => touches(place, 78, 48))).toBe(true)
  for (const { suggestion } of found) if (suggestion) expect(Math.abs((suggestion as { frame: number }).frame - focusAt(78))).toBeLessThan(1.5)
})

test('two peaks of sharpness are two depths, one broad peak is one', () => {
  expect(twoPeaks([1, 9, 2, 1, 1, 1, 2, 8, 2], 1)).toEqual([1, 7])
  expect(twoPeaks([1, 4, 8, 9, 8, 5, 2, 1, 1], 1)).toBeUndefined()
  expect(twoPeaks([1, 9, 2, 0.1, 0.1, 0.1, 0.2, 0.5, 0.2], 1)).toBeUndefined()
})

test('every kind of place has its sentence, with files for frames', () => {
  const place = { x: 1, y: 2, width: 3, height: 4 }
  const files = ['a.jpg', 'b.jpg', 'c.jpg']
  const say = (finding: Omit<Finding, 'cells'>) => told(finding, place, files)
  expect(say({ kind: 'ghost', severity: 0.834, frames: [1], suggestion: { frame: 2 } })).toEqual({
    ...place,
    kind: 'ghost',
    severity: 0.83,
    text: 'A part moved and may show twice. c.jpg shows it whole.',
    suggestion: { frame: 'c.jpg' },
  })
  const texts = (['halo', 'soft', 'neverSharp', 'crossing', 'dust', 'edge', 'clipped'] as const).map(
    (kind) => say({ kind, severity: 1, frames: [0, 2], suggestion: null }).text,
  )
  expect(new Set(texts).size).toBe(7)
  expect(texts[1]).toContain('a.jpg')
  expect(texts[3]).toMatch(/a\.jpg.*c\.jpg/)
})
