import { createPicture, fromInterleaved, IDENTITY, smooth, toInterleaved16, type Picture, type Plane } from '../raster'
import { gaussian, randomStream } from '../simulate/random'
import { STYLES, type Tuning } from '.'

const [WIDTH, HEIGHT] = [96, 64]

function picture(f: (x: number, y: number) => number): Picture {
  const out = createPicture(WIDTH, HEIGHT)
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) out.planes.forEach(({ data }) => (data[y * WIDTH + x] = f(x, y)))
  return out
}

function blurred(sharp: Picture, times: number): Picture {
  const soft = (plane: Plane) => Array.from({ length: times }).reduce<Plane>((p) => smooth(p), plane)
  return { ...sharp, planes: sharp.planes.map((plane) => ({ ...soft(plane), data: soft(plane).data.slice() })) as Picture['planes'] }
}

const mean = (a: Picture, b: Picture) =>
  ({ ...a, planes: a.planes.map((plane, c) => ({ ...plane, data: plane.data.map((value, i) => (value + b.planes[c].data[i]) / 2) })) }) as Picture

function error(a: Picture, b: Picture): number {
  return Math.sqrt(a.planes[0].data.reduce((sum, value, i) => sum + (value - b.planes[0].data[i]) ** 2, 0) / (WIDTH * HEIGHT))
}

/** Root mean square of what two planes differ by in some columns, a little within the upper and lower edge. */
function errorIn(columns: number[], { data }: Plane, truth: Plane): number {
  let squares = 0
  for (let y = 4; y < HEIGHT - 4; y++) for (const x of columns) squares += (data[y * WIDTH + x] - truth.data[y * WIDTH + x]) ** 2
  return Math.sqrt(squares / ((HEIGHT - 8) * columns.length))
}

function fuse(frames: Picture[], tuning: Tuning, style = STYLES.auto) {
  const accumulator = style.create({ width: WIDTH, height: HEIGHT, tuning })
  const entries = [...frames.entries()]
  if (tuning.prefer === 'far') entries.reverse()
  const taken = ([index, frame]: [number, Picture]) => ({ index, samples: toInterleaved16(frame), motion: IDENTITY, gain: 1 })
  for (const entry of entries) accumulator.add(taken(entry))
  if (tuning.finest) for (const entry of entries) accumulator.addAgain(taken(entry))
  const fused = accumulator.finish()
  return { depth: fused.depth().data.slice(), picture: fromInterleaved(fused.samples, WIDTH, HEIGHT) }
}

describe('two depths at one place', () => {
  // A lattice in front of stripes; both show through one another. Beside them is nothing, as noise is measured there.
  const near = picture((x, y) => (x > 70 ? 0.5 : ((x >> 2) + (y >> 2)) % 2 ? 0.8 : 0.2))
  const far = picture((x) => (x > 70 ? 0.5 : 0.5 + 0.3 * Math.sin(x * 1.1)))
  const frames = Array.from({ length: 7 }, (_, k) => mean(blurred(near, 9 * k), blurred(far, 9 * (6 - k))))

  test.each(['auto', 'terrain'] as const)('%s shows the one that is preferred', (name) => {
    const [asNear, asFar] = (['near', 'far'] as const).map((prefer) => fuse(frames, { prefer }, STYLES[name]))
    expect(error(asNear.picture, frames[0])).toBeLessThan(0.5 * error(asNear.picture, frames[6]))
    expect(error(asFar.picture, frames[6])).toBeLessThan(0.5 * error(asFar.picture, frames[0]))
    const middle = (depth: Float32Array) => [...depth].sort((a, b) => a - b)[depth.length >> 1]
    expect(middle(asNear.depth)).toBeLessThan(1)
    expect(middle(asFar.depth)).toBeGreaterThan(5)
  })

  test('where there is one depth only, preferring changes next to nothing', () => {
    const single = Array.from({ length: 7 }, (_, k) => blurred(near, 4 * Math.abs(k - 3)))
    for (const prefer of ['near', 'far'] as const) expect(error(fuse(single, { prefer }).picture, fuse(single, {}).picture)).toBeLessThan(0.002)
  })

  test('ground beside a hair keeps its detail where the near depth is preferred', () => {
    const random = randomStream(7)
    const texture = Float32Array.from({ length: WIDTH * HEIGHT }, () => 0.08 * gaussian(random))
    const ground = smooth({ width: WIDTH, height: HEIGHT, data: texture }).data
    const far = picture((x, y) => (x > 70 ? 0.5 : 0.5 + 2 * ground[y * WIDTH + x]))
    const hair = picture((x) => Number(x >= 30 && x < 34))
    // The hair is a veil over the ground where it is out of focus.
    const shot = Array.from({ length: 7 }, (_, k) => {
      const [veil, behind] = [blurred(hair, 2 * k), blurred(far, 2 * (6 - k))]
      return picture((x, y) => {
        const [share, value] = [veil, behind].map(({ planes }) => planes[0].data[y * WIDTH + x])
        return share * 0.15 + (1 - share) * value
      })
    })
    const beside = (tuning: Tuning) => errorIn([25, 26, 27, 36, 37, 38], fuse(shot, tuning).picture.planes[0], far.planes[0])
    expect(beside({ prefer: 'near' })).toBeLessThan(1.15 * beside({}))
  })
})

describe('boundary, neighbourhood and floor', () => {
  const random = randomStream(4)
  const base = picture((x) => (x < WIDTH / 2 ? (((x >> 1) % 2) + 1) / 3 : 0.5))
  const noisy = Array.from({ length: 8 }, () => {
    const frame = blurred(base, 0)
    for (const { data } of frame.planes) for (let i = 0; i < data.length; i++) data[i] += 0.02 * gaussian(random)
    return frame
  })
  const roughness = ({ planes: [{ data }] }: Picture) => {
    let sum = 0
    for (let y = 8; y < HEIGHT - 8; y++) for (let x = 60; x < WIDTH - 8; x++) sum += (data[y * WIDTH + x] - 0.5) ** 2
    return Math.sqrt(sum / (HEIGHT - 16) / (WIDTH - 68))
  }

  test('a high floor lets noise average away', () => {
    const [low, high] = [0.2, 20].map((floor) => roughness(fuse(noisy, { floor }).picture))
    expect(high).toBeLessThan(0.85 * low)
    expect(high).toBeLessThan(0.0085)
  })

  test('a softer boundary and a wider neighbourhood average more', () => {
    const [hard, usual, soft] = [0, undefined, 1].map((boundary) => roughness(fuse(noisy, { boundary, floor: 0.2 }).picture))
    expect(hard).toBeGreaterThan(usual)
    expect(usual).toBeGreaterThan(soft)
    const [least, most] = [1, 4].map((neighbourhood) => roughness(fuse(noisy, { neighbourhood, floor: 0.2 }).picture))
    expect(most).toBeLessThan(least)
  })

  test('0.5 and the style’s own neighbourhood are what is done unasked', () => {
    expect(fuse(noisy, { boundary: 0.5, neighbourhood: 1, floor: 1, prefer: 'none' }).picture).toEqual(fuse(noisy, {}).picture)
  })
})

describe('the finest detail', () => {
  /** Fine detail on a slope on the left, nothing on the right; each frame sharp at another place of the slope, each with noise. */
  const sharp = picture((x, y) => (x < WIDTH / 2 ? 0.5 + 0.2 * Math.sin(x * 1.7) * Math.cos(y * 1.9) : 0.5))
  const frames = (noise: number) => {
    const random = randomStream(9)
    return Array.from({ length: 7 }, (_, k) => {
      const softs = [0, 1, 2, 3, 4, 5, 6].map((times) => blurred(sharp, times))
      // Place of the depth from frame 1 to 5, top to bottom.
      return picture((x, y) => {
        const away = 0.4 * Math.abs(k - (1 + (4 * y) / (HEIGHT - 1)))
        const [before, part] = [Math.floor(away), away % 1]
        const at = (times: number) => softs[Math.min(6, times)].planes[0].data[y * WIDTH + x]
        return at(before) * (1 - part) + at(before + 1) * part + noise * gaussian(random)
      })
    })
  }
  const errors = (shot: Picture[], tuning: Tuning) => {
    const fused = fuse(shot, tuning).picture.planes[1]
    const within = (from: number, to: number) =>
      errorIn(
        Array.from({ length: to - from }, (_, k) => from + k),
        fused,
        sharp.planes[1],
      )
    return { detail: within(4, WIDTH / 2 - 6), empty: within(WIDTH / 2 + 8, WIDTH - 4) }
  }

  test('comes nearer to the truth when frames come twice, where there is detail', () => {
    const shot = frames(0.01)
    const [once, twice] = [errors(shot, {}), errors(shot, { finest: true })]
    expect(twice.detail).toBeLessThan(0.85 * once.detail)
    // Noise grows by what the band is raised.
    expect(twice.empty).toBeLessThan(1.04 * once.empty)
  })
})
