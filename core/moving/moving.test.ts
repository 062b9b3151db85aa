import { luma } from '../raster'
import { WasmKernels } from '../raster/kernels'
import { SimulatedSeries, landscape, type LandscapeRequest } from '../simulate'
import { heldBack, MovingFinder, withMoments, type Moved, type MovedParts } from '.'

const size = { width: 480, height: 320 }

/** What the finder says of a simulated landscape whose frames are registered as they really lie. */
function found(more: Partial<LandscapeRequest>): Moved {
  const series = new SimulatedSeries(
    landscape({ scene: 'meadow', seed: 3, frames: 5, near_mm: 600, fNumber: 1.4, wind: 0, aside_mm: 0.3, width_px: size.width, ...more }),
  )
  const finder = new MovingFinder(size, new WasmKernels())
  const shot = Array.from({ length: series.count }, (_, k) => series.shoot(k))
  for (const { picture } of shot) finder.add(luma(picture))
  const reference = shot[series.reference].exposure
  const lying = {
    motions: shot.map(({ motion }) => motion),
    gains: shot.map(({ exposure }) => (reference / exposure) ** (1 / 2.4)),
    stirred: shot.map(() => 1),
    lost: [],
  }
  return finder.finish(lying, 'auto')
}

describe('where nothing moved nothing is said to', () => {
  test.each([
    ['a still meadow', {}],
    ['the same with the camera pushed aside by 2 mm', { aside_mm: 2 }],
    ['a still garden with the camera pushed aside', { scene: 'garden', aside_mm: 1.5, frames: 4, seed: 6 }],
  ] as [string, Partial<LandscapeRequest>][])('%s', (_, request) => {
    const { parts, stirred } = found(request)
    expect(parts).toBeUndefined()
    if (request.aside_mm) expect(Math.max(...stirred.slice(1))).toBeLessThan(0.01)
  })
})

describe('a shrub and grass in the wind', () => {
  const { parts } = found({ wind: 1.5, fNumber: 0.9 })
  const shrub = { x: 150, y: 130 }
  const partAt = (moved: MovedParts, { x, y }: typeof shrub) =>
    moved.parts.find(({ box }) => x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height)!

  test('are found, the wall, the hill and the sky beside them are not', () => {
    const { owner, width } = parts!
    const at = (x: number, y: number) => owner[(y >> 1) * width + (x >> 1)]
    expect(at(shrub.x, shrub.y)).toBeGreaterThanOrEqual(0)
    // Sky, hill, the trough's left end, the wall's left end.
    for (const [x, y] of [
      [60, 40],
      [400, 60],
      [40, 290],
      [20, 200],
    ] as const)
      expect(at(x, y)).toBe(-1)
    const share = owner.filter((frame) => frame >= 0).length / owner.length
    expect(share).toBeGreaterThan(0.15)
    expect(share).toBeLessThan(0.45)
  })

  test('the shrub is shown from the frame that is focused on it; the others are held back there', () => {
    // It stands at 2.2 to 2.8 m, the slices at 0.6, 0.79, 1.2, 2.3 and 60 m.
    const part = partAt(parts!, shrub)
    expect(part.frame).toBe(3)
    expect(part.sharpness[3]).toBe(1)
    const place = (shrub.y >> 1) * parts!.width + (shrub.x >> 1)
    expect([0, 1, 2, 3, 4].map((frame) => heldBack(parts!, frame)?.data[place] ?? 0)).toEqual([1, 1, 1, 0, 1])
  })

  test('grass is shown from a frame that is focused in it, and the wall behind it from where it is sharp', () => {
    const grass = parts!.parts.find(({ frame }) => frame < 3)!
    expect(grass.share).toBeGreaterThan(0.01)
    expect(grass.box.x).toBeGreaterThan(220)
    /** How much of the grass a frame is held back in. */
    const heldIn = (frame: number) => {
      const held = heldBack(parts!, frame)!
      return parts!.owner.reduce((sum, owner, i) => sum + Number(owner === grass.frame && held.data[i]), 0)
    }
    // The wall stands at 7 m, nearest to the last slice; the middle one shows grass elsewhere.
    expect(heldIn(2)).toBeGreaterThan(200)
    expect(heldIn(4)).toBeLessThan(0.85 * heldIn(2))
  })

  test('a part is shown from another frame if that is asked for, and the others stay', () => {
    const other = withMoments(
      parts!,
      [
        { ...shrub, frame: 4 },
        { x: 10, y: 10, frame: 0 },
      ],
      size,
    )
    expect(partAt(other, shrub).frame).toBe(4)
    expect(other.parts.filter(({ frame }, k) => frame !== parts!.parts[k].frame)).toHaveLength(1)
    expect(parts!.parts[0].frame).not.toBe(undefined)
  })
})
