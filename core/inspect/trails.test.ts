import type { Speck } from '../dust'
import { apply, createPlane, IDENTITY, invert, type Plane, type Similarity } from '../raster'
import { trailOf } from './trails'

const frame = { width: 200, height: 140 }
const speck: Speck = { x: 30, y: 24, radius_px: 4, darkness: 0.55, left: 24, top: 18, width: 13, height: 13, shade: new Float32Array(169).fill(1) }
/** The subject nears: each frame is larger than the one before. */
const motions: Similarity[] = [1, 1.06, 1.12].map((scale) => ({ ...IDENTITY, scale }))

/** Grey with, of each frame that is asked for, the dark disc that the speck left; `px` for one of the frames. */
function fused(frames: number[], { dark = 0.3, px = 1, shift = [0, 0], grain = 0 } = {}): Plane {
  const plane = createPlane(frame.width * px, frame.height * px)
  plane.data.forEach((_, i) => (plane.data[i] = 0.5 + grain * ((i * 7919) % 13 < 6 ? -1 : 1)))
  const places = frames.map(placeIn)
  plane.data.forEach((light, i) => {
    const [column, row] = [i % plane.width, Math.floor(i / plane.width)]
    const away = ({ x, y }: { x: number; y: number }) =>
      Math.hypot(column - ((x + 0.5) * px - 0.5 - shift[0]), row - ((y + 0.5) * px - 0.5 - shift[1]))
    if (places.some((place) => away(place) < speck.radius_px * px)) plane.data[i] = light * (1 - dark)
  })
  return plane
}

/** Where the speck of a frame lies in the reference's px. */
function placeIn(k: number) {
  const [x, y] = apply(invert(motions[k]), speck.x - (frame.width - 1) / 2, speck.y - (frame.height - 1) / 2)
  return { x: x + (frame.width - 1) / 2, y: y + (frame.height - 1) / 2 }
}

describe('the trail that a speck left in a fused picture', () => {
  test('is told with all places where it shows, and how dark it is', () => {
    const trail = trailOf(speck, motions, frame, fused([0, 1, 2]), [0, 0], 1)!
    expect(trail.darkness).toBeCloseTo(0.3, 1)
    const { x, y, width, height } = trail.rectangle
    for (const place of [0, 1, 2].map(placeIn)) {
      expect(place.x - speck.radius_px > x && place.x + speck.radius_px < x + width).toBe(true)
      expect(place.y - speck.radius_px > y && place.y + speck.radius_px < y + height).toBe(true)
    }
    expect([width < 30, height < 26]).toEqual([true, true])
  })

  test('ends where the fuse took another frame', () => {
    const one = trailOf(speck, motions, frame, fused([0]), [0, 0], 1)!
    const three = trailOf(speck, motions, frame, fused([0, 1, 2]), [0, 0], 1)!
    expect(one.rectangle.width).toBeLessThan(three.rectangle.width)
  })

  test('is not told of where the picture is as light as around', () => {
    expect(trailOf(speck, motions, frame, fused([]), [0, 0], 1)).toBeUndefined()
    // A tenth of what the speck takes away may be anything.
    expect(trailOf(speck, motions, frame, fused([0, 1, 2], { dark: 0.03 }), [0, 0], 1)).toBeUndefined()
  })

  test('can be filled from around where that is even, and not over texture', () => {
    expect(trailOf(speck, motions, frame, fused([1]), [0, 0], 1)!.even).toBe(true)
    expect(trailOf(speck, motions, frame, fused([1], { grain: 0.15 }), [0, 0], 1)!.even).toBe(false)
  })

  test('is found in a picture of twice the size, cut at its corner', () => {
    const shift: [number, number] = [14, 9]
    const whole = trailOf(speck, motions, frame, fused([0, 1, 2]), [0, 0], 1)!
    const cut = trailOf(speck, motions, frame, fused([0, 1, 2], { px: 2, shift }), shift, 2)!
    expect(cut.rectangle.x).toBeCloseTo(2 * whole.rectangle.x + 0.5 - shift[0], 0)
    expect(cut.rectangle.width).toBeCloseTo(2 * whole.rectangle.width, 0)
  })
})
