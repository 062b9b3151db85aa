import { createPicture, fromInterleaved, IDENTITY, reduce, smooth, toInterleaved16, type Picture, type Plane } from '../raster'
import { TwinKernels, WasmKernels, type Kernels } from '../raster/kernels'
import { randomStream } from '../simulate/random'
import { fullSize, STYLES, type Range } from '.'

const WIDTH = 96
const HEIGHT = 64

/** A picture with the grey values of f(x, y), tinted. */
function picture(f: (x: number, y: number) => number): Picture {
  const out = createPicture(WIDTH, HEIGHT)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) out.planes.forEach(({ data }, c) => (data[y * WIDTH + x] = f(x, y) * (1 - 0.1 * c)))
  return out
}

const checks = picture((x, y) => (((x >> 2) + (y >> 2)) % 2 ? 0.7 : 0.3))

const blurredPlane = (plane: Plane) => [1, 2, 3, 4, 5, 6].reduce((p) => smooth(p), plane)

/** `sharp` where `keep` says so, blurred elsewhere. */
function half(sharp: Picture, keep: (x: number) => boolean): Picture {
  const out = createPicture(WIDTH, HEIGHT)
  sharp.planes.forEach((plane, c) => {
    const soft = blurredPlane(plane)
    out.planes[c].data.forEach((_, i) => (out.planes[c].data[i] = keep(i % WIDTH) ? plane.data[i] : soft.data[i]))
  })
  return out
}

function error(a: Picture, b: Picture): number {
  let sum = 0
  a.planes.forEach(({ data }, c) => data.forEach((v, i) => (sum += (v - b.planes[c].data[i]) ** 2)))
  return Math.sqrt(sum / (3 * WIDTH * HEIGHT))
}

describe.each(Object.values(STYLES))('$name', (style) => {
  const fuse = (...pictures: Picture[]) => {
    const accumulator = style.create({ width: WIDTH, height: HEIGHT })
    pictures.forEach((frame, index) => accumulator.add({ index, samples: toInterleaved16(frame), motion: IDENTITY, gain: 1 }))
    const { samples, ...maps } = accumulator.finish()
    return { ...maps, picture: fromInterleaved(samples, WIDTH, HEIGHT) }
  }

  test('takes each half from the frame that has it sharp', () => {
    const left = half(checks, (x) => x < WIDTH / 2)
    const right = half(checks, (x) => x >= WIDTH / 2)
    const fused = fuse(left, right)
    expect(error(fused.picture, checks)).toBeLessThan(0.25 * error(left, checks))
    const whole = { x: 0, y: 0, width: WIDTH, height: HEIGHT }
    const percent: Range = [0, 2.55]
    const [source, depth, confidence] = [fused.source(), fused.depth(), fused.confidence()].map((map) => fullSize(map, whole, 8, percent).data)
    expect(source[32 * WIDTH + 12]).toBe(0)
    expect(source[32 * WIDTH + 84]).toBe(100)
    expect(depth[32 * WIDTH + 12]).toBeLessThan(10)
    expect(depth[32 * WIDTH + 84]).toBeGreaterThan(90)
    expect(confidence[32 * WIDTH + 12]).toBeGreaterThan(80)
  })

  test('is sure of the depth on both sides of a step, and not right beside it', () => {
    const soft = half(checks, () => false)
    const [left, right] = [half(checks, (x) => x < WIDTH / 2), half(checks, (x) => x >= WIDTH / 2)]
    const fused = fuse(left, soft, soft, soft, right)
    const { data, width } = fused.confidence()
    const at = (x: number) => Array.from({ length: 8 }, (_, k) => data[(12 + k) * width + x]).reduce((sum, c) => sum + c) / 8
    const step = WIDTH / 4
    for (const beside of [step - 1, step]) expect(at(beside)).toBeLessThan(0.4)
    for (const away of [step - 12, step + 12]) expect(at(away)).toBeGreaterThan(0.75)
    // Asked once more, or after the depth, it is the same.
    fused.depth()
    expect(fused.confidence().data).toBe(data)
  })

  test('shows what there is so far, small, and goes on as if nobody had looked', () => {
    const left = half(checks, (x) => x < WIDTH / 2)
    const right = half(checks, (x) => x >= WIDTH / 2)
    const looked = style.create({ width: WIDTH, height: HEIGHT })
    const add = (frame: Picture, index: number) => looked.add({ index, samples: toInterleaved16(frame), motion: IDENTITY, gain: 1 })
    expect(() => looked.soFar()).toThrow('No frame')
    add(left, 0)
    const first = looked.soFar()
    expect([first.width, first.height, first.depth.width, first.depth.height]).toEqual([48, 32, 48, 32])
    const small = (whole: Picture) => toInterleaved16({ width: 48, height: 32, planes: whole.planes.map(reduce) as Picture['planes'] })
    const apart = (a: Uint16Array, b: Uint16Array) => a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0)
    expect(apart(first.samples, small(left))).toBeLessThan(40)
    add(right, 1)
    const both = looked.soFar()
    expect(both.depth.data[16 * 48 + 6]).toBeLessThan(0.1)
    expect(both.depth.data[16 * 48 + 42]).toBeGreaterThan(0.9)
    const { samples: now } = looked.finish()
    const fused = fromInterleaved(now.slice(), WIDTH, HEIGHT)
    // Bands that were weighed are no longer quite the bands of the picture that they make.
    const whole = small(fused)
    const mean = both.samples.reduce((sum, value, i) => sum + Math.abs(value - whole[i]), 0) / both.samples.length
    expect(mean).toBeLessThan(200)
    expect(toInterleaved16(fused)).toEqual(toInterleaved16(fuse(left, right).picture))
  })

  test('gives one frame back as it is', () => {
    expect(error(fuse(checks).picture, checks)).toBeLessThan(2e-5)
  })

  test('leaves even areas even, at the mean of the frames', () => {
    const fused = fuse(
      picture(() => 0.4),
      picture(() => 0.5),
    )
    expect(fused.picture.planes[0].data.every((value) => Math.abs(value - 0.45) < 5e-4)).toBe(true)
  })

  test('the order of the frames does not change the picture', () => {
    const frames = [half(checks, (x) => x < 30), half(checks, (x) => x >= 30 && x < 60), half(checks, (x) => x >= 60)]
    expect(error(fuse(...frames).picture, fuse(...frames.toReversed()).picture)).toBeLessThan(2e-5)
  })

  test('a frame that was dark and is brought up does not bring its noise into even parts, and still gives its detail', () => {
    const random = randomStream(11)
    const noisy = (of: (x: number, y: number) => number, by: number) => picture((x, y) => of(x, y) + by * (random() - 0.5))
    const even = (x: number, y: number) => (x < WIDTH / 2 ? 0.5 : ((x >> 2) + (y >> 2)) % 2 ? 0.65 : 0.35)
    // The fifth frame got a sixth of the light: as encoded values less than half, and only it has the checks.
    const gain = 2.3
    const accumulator = style.create({ width: WIDTH, height: HEIGHT })
    const add = (frame: Picture, index: number, factor: number) =>
      accumulator.add({ index, samples: toInterleaved16(frame), motion: IDENTITY, gain: factor })
    for (let k = 0; k < 4; k++)
      add(
        noisy(() => 0.5, 0.01),
        k,
        1,
      )
    const dark = noisy(even, 0.05)
    dark.planes.forEach(({ data }) => data.forEach((value, i) => (data[i] = value / gain)))
    add(dark, 4, gain)
    const { data } = fromInterleaved(accumulator.finish().samples, WIDTH, HEIGHT).planes[0]
    let [sum, count, contrast] = [0, 0, 0]
    for (let y = 8; y < HEIGHT - 8; y++) {
      for (let x = 8; x < WIDTH / 2 - 12; x++, count++) sum += (data[y * WIDTH + x] - 0.5) ** 2
      for (let x = WIDTH / 2 + 12; x < WIDTH - 8; x++) contrast = Math.max(contrast, data[y * WIDTH + x])
    }
    // The noise of the four alone would be 0.0014, that of the dark frame is 0.0144.
    expect(Math.sqrt(sum / count)).toBeLessThan(0.003)
    expect(contrast).toBeGreaterThan(0.6)
  })

  test('noise averages away where no frame has detail', () => {
    let state = 7
    const random = () => (state = (state * 16807) % 2147483647) / 2147483647
    const grey = picture(() => 0.5)
    const noise = () => picture(() => 0.5 + 0.002 * (random() - 0.5))
    const single = noise()
    const fused = fuse(single, noise(), noise(), noise(), noise(), noise(), noise(), noise()).picture
    expect(error(fused, grey)).toBeLessThan(0.6 * error(single, grey))
  })

  test('nothing added is an error, not an empty picture', () => {
    expect(() => style.create({ width: 8, height: 8 }).finish()).toThrow('No frame')
  })
  test('the same bytes by the plain kernels, to within one of 65536, or a step of the finest band in one place of a thousand', () => {
    const of = (kernels: Kernels) => {
      const accumulator = style.create({ width: WIDTH, height: HEIGHT, kernels })
      ;[half(checks, (x) => x < 40), half(checks, (x) => x >= 40)].forEach((frame, index) =>
        accumulator.add({ index, samples: toInterleaved16(frame), motion: { ...IDENTITY, dx_px: 0.3 * index }, gain: 1 }),
      )
      return accumulator.finish().samples
    }
    const [plain, compiled] = [of(new TwinKernels()), of(new WasmKernels())]
    const apart = plain.map((value, i) => Math.abs(value - compiled[i]))
    // Means of 16 bits have steps of two of 65536, and what lies right between two of them may be rounded to either.
    expect(Math.max(...apart)).toBeLessThanOrEqual(2)
    expect(apart.filter((by) => by > 1).length).toBeLessThan(apart.length / 1000)
  })
})

test('the depth of a place between two frames lies between theirs', () => {
  // Sharpness that peaks a third of a step after frame 2.
  const peak = 2 + 1 / 3
  const accumulator = STYLES.auto.create({ width: WIDTH, height: HEIGHT })
  for (let index = 0; index < 5; index++) {
    const contrast = 0.25 * Math.exp(-((index - peak) ** 2) / 3)
    const frame = picture((x, y) => 0.5 + contrast * Math.sin(1.1 * x) * Math.cos(0.9 * y))
    accumulator.add({ index, samples: toInterleaved16(frame), motion: IDENTITY, gain: 1 })
  }
  const { source, depth } = accumulator.finish()
  const [frames, places] = [source(), depth()]
  for (let y = 8; y < 24; y++) {
    for (let x = 8; x < 40; x++) {
      expect(frames.data[y * frames.width + x]).toBe(2)
      expect(Math.abs(places.data[y * places.width + x] - peak)).toBeLessThan(0.06)
    }
  }
})
