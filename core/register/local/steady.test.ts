import { cornerDistance_px, createPlane, IDENTITY, smooth, type Plane, type Similarity } from '../../raster'
import { PairRegistrar, Preparer, SeriesRegistrar, steadied, STIRRED } from '..'

const [WIDTH, HEIGHT] = [640, 420]
const preparer = new Preparer()

/** A soft ground of long waves, and in the left half fine detail before it, which lies `own_px` beside its place. */
function seen(camera: Similarity, own_px: number): Plane {
  const plane = createPlane(WIDTH, HEIGHT)
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [(x - WIDTH / 2 - camera.dx_px) / camera.scale, (y - HEIGHT / 2 - camera.dy_px) / camera.scale]
      const ground = Math.sin(u * 0.11 + v * 0.03) + Math.cos(v * 0.12 - u * 0.04) + Math.sin((u + v) * 0.071 + 2)
      const m = u - own_px
      const fine = x < WIDTH * 0.4 ? Math.sin(m * 0.9 + v * 0.2) * Math.cos(v * 0.8 + m * 0.05) * Math.max(0, Math.sin(m * 0.06)) : 0
      plane.data[y * WIDTH + x] = 0.5 + 0.07 * ground + 0.2 * fine
    }
  }
  return smooth(plane)
}

const camera = { ...IDENTITY, scale: 1.004, dx_px: 2, dy_px: -1.5 }
const distance = (motion: Similarity) => cornerDistance_px(motion, camera, WIDTH, HEIGHT)

test('what stands still says how the camera moved, where what is in focus stirred', () => {
  const [before, after] = [seen(IDENTITY, 0), seen(camera, 2.4)].map((plane) => preparer.fromLuma(plane))
  const { motion } = new PairRegistrar().register(before, after, WIDTH)
  const steady = steadied(before, after, motion, WIDTH)
  expect(distance(motion)).toBeGreaterThan(1)
  expect(distance(steady)).toBeLessThan(0.35)
})

test('the motion stays what it was where nothing is to be seen', () => {
  const even = createPlane(WIDTH, HEIGHT)
  even.data.fill(0.3)
  expect(steadied(preparer.fromLuma(even), preparer.fromLuma(even), camera, WIDTH)).toEqual(camera)
})

test('of two parts that moved apart the larger is followed, not the middle between them, and not the one it begins with', () => {
  const parts = (left_px: number, right_px: number) => {
    const plane = createPlane(WIDTH, HEIGHT)
    for (let y = 0; y < HEIGHT; y++) {
      for (let x = 0; x < WIDTH; x++) {
        const u = x - (x < 0.35 * WIDTH ? left_px : right_px)
        plane.data[y * WIDTH + x] = 0.5 + 0.15 * Math.sin(u * 0.21 + y * 0.05) + 0.15 * Math.cos(y * 0.19 - u * 0.07) + 0.1 * Math.sin((u - y) * 0.13)
      }
    }
    return preparer.fromLuma(smooth(plane))
  }
  const steady = steadied(parts(0, 0), parts(-3, 1), { ...IDENTITY, dx_px: -3 }, WIDTH)
  expect(cornerDistance_px(steady, { ...IDENTITY, dx_px: 1 }, WIDTH, HEIGHT)).toBeLessThan(0.7)
})

test('pictures too small for a coarser level keep their motion', () => {
  const tiny = createPlane(90, 60)
  tiny.data.forEach((_, i) => (tiny.data[i] = 0.5 + 0.4 * Math.sin(i * 0.9)))
  expect(steadied(preparer.fromLuma(tiny), preparer.fromLuma(tiny), camera, 90)).toEqual(camera)
})

test('a series is registered by what stands still, and only what moved is bent', () => {
  const registrar = new SeriesRegistrar(WIDTH, undefined, 'whereMoved')
  const stirs = [0, 2.4, 2.4]
  const motions = [IDENTITY, camera, { ...camera, dx_px: 3.1 }]
  motions.forEach((motion, k) => registrar.add(preparer.fromLuma(seen(motion, stirs[k]))))
  const found = registrar.finish(0)
  expect(found.stirred.map((share) => share >= STIRRED)).toEqual([false, true, false])
  expect(distance(found.motions[1])).toBeLessThan(0.35)
  expect(cornerDistance_px(found.motions[2], motions[2], WIDTH, HEIGHT)).toBeLessThan(0.5)
  expect(found.bends![0]).toBeUndefined()
  expect(found.bends![1]).toBeDefined()
})
