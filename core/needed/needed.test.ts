import { gaussian, randomStream } from '../simulate'
import { evenly, everyNth, framesNeeded, keptDetail, lossOf, type Loss, type Luma } from '.'

const [WIDTH, HEIGHT] = [480, 336]

/** Texture, and where it is seen through a blur of so many rounds of 1 2 1; `noise` in levels of 255. */
function texture({ rounds = () => 0, noise = 0, seed = 1 }: { rounds?: (x: number, y: number) => number; noise?: number; seed?: number } = {}): Luma {
  const [stream, other] = [randomStream(7), randomStream(seed)]
  let sharp: Float32Array = Float32Array.from({ length: WIDTH * HEIGHT }, () => 0.5 + 0.4 * gaussian(stream))
  // As soft as a lens makes it.
  for (let k = 0; k < 3; k++) sharp = smooth(sharp)
  const versions = [sharp]
  for (let k = 0; k < 8; k++) versions.push((sharp = smooth(sharp)))
  const data = new Uint16Array(WIDTH * HEIGHT)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) data[i] = 65535 * Math.min(1, Math.max(0, versions[rounds(x, y)][i] + (noise / 255) * gaussian(other)))
  return { width: WIDTH, height: HEIGHT, data }
}

function smooth(from: Float32Array): Float32Array {
  const at = (x: number, y: number) => from[Math.min(HEIGHT - 1, Math.max(0, y)) * WIDTH + Math.min(WIDTH - 1, Math.max(0, x))]
  return from.map((_, i) => {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)]
    return (4 * at(x, y) + at(x - 1, y) + at(x + 1, y) + at(x, y - 1) + at(x, y + 1)) / 8
  })
}

const meanOf = (values: Float32Array) => values.reduce((a, b) => a + b) / values.length

describe('detail that is kept', () => {
  test('is all of it where nothing changed', () => {
    const { kept, squares } = keptDetail(texture(), texture())
    expect(Math.min(...kept)).toBeCloseTo(1, 5)
    expect(Math.max(...squares)).toBe(0)
  })

  test('is less the more a picture is blurred', () => {
    const shares = [1, 2, 4].map((rounds) => meanOf(keptDetail(texture(), texture({ rounds: () => rounds })).kept))
    expect(shares[0]).toBeGreaterThan(shares[1])
    expect(shares[1]).toBeGreaterThan(shares[2])
    expect(shares[2]).toBeLessThan(0.6)
  })

  test('noise of its own changes nothing', () => {
    const [without, noisy] = [texture({ rounds: () => 2 }), texture({ rounds: () => 2, noise: 3 })].map((other) =>
      meanOf(keptDetail(texture(), other).kept),
    )
    expect(Math.abs(noisy - without)).toBeLessThan(0.01)
  })

  test('is not told of where there is no detail', () => {
    const plain = { ...texture(), data: new Uint16Array(WIDTH * HEIGHT).fill(30_000) }
    expect(keptDetail(plain, texture()).kept.every(Number.isNaN)).toBe(true)
  })
})

describe('the loss', () => {
  const soft = texture({ rounds: (x, y) => (x >= 288 && x < 432 && y < 144 ? 5 : 0) })

  test('shows where a part is soft, and where that is', () => {
    const loss = lossOf(texture(), soft)
    expect(loss.visible).toBe(true)
    expect(loss.soft_percent).toBeCloseTo((100 * 9) / 70, 0)
    expect(loss.worst_dB).toBeLessThan(loss.psnr_dB)
    const { x, y, width, height } = loss.softest!
    expect([x + width / 2 > 288, x + width / 2 < 432, y + height / 2 < 160]).toEqual([true, true, true])
  })

  test('does not show in noise alone, however the decibels fall', () => {
    const loss = lossOf(texture({ noise: 2 }), texture({ noise: 2, seed: 2 }))
    expect(loss.psnr_dB).toBeLessThan(42)
    expect(loss).toMatchObject({ visible: false, soft_percent: 0 })
    expect(loss.softest).toBeUndefined()
  })

  test('is not judged where something moved', () => {
    expect(lossOf(texture(), soft, [{ x: 280, y: 0, width: 160, height: 150 }])).toMatchObject({ visible: false })
  })
})

describe('frames of a subset', () => {
  test('every second, third, … with the ends left out alike', () => {
    expect(everyNth(7, 2)).toEqual([0, 2, 4, 6])
    expect(everyNth(8, 3)).toEqual([0, 3, 6])
    expect(everyNth(18, 4)).toEqual([0, 4, 8, 12, 16])
    expect(everyNth(9, 4)).toEqual([0, 4, 8])
  })

  test('so many, evenly', () => {
    expect(evenly(10, 4)).toEqual([1, 3, 6, 8])
    expect(evenly(6, 6)).toEqual([0, 1, 2, 3, 4, 5])
  })
})

describe('the fewest frames', () => {
  const loss = (visible: boolean): Loss => ({ psnr_dB: 40, worst_dB: 35, soft_percent: visible ? 5 : 0, visible })
  const search = async (count: number, enough: number) => {
    const asked: number[] = []
    const found = await framesNeeded(count, (frames) => {
      asked.push(frames.length)
      return Promise.resolve(loss(frames.length < enough))
    })
    return { ...found, asked }
  }

  test.each([
    [40, 7],
    [33, 12],
    [24, 9],
    [18, 6],
  ])('of %d are found within one of %d, with few looks', async (count, enough) => {
    const { fewest, asked } = await search(count, enough)
    expect(fewest!.frames.length).toBeGreaterThanOrEqual(enough)
    expect(fewest!.frames.length - enough).toBeLessThanOrEqual(1)
    // All frames were fused before; together that is less than three times as many.
    expect(count + asked.reduce((a, b) => a + b)).toBeLessThan(3 * count)
  })

  test('are all of them where every second is too few, and nothing between does', async () => {
    const { fewest, subsets } = await search(12, 12)
    expect(fewest).toBeUndefined()
    expect(subsets.length).toBeGreaterThan(0)
  })

  test('are two where nothing changes', async () => {
    expect((await search(16, 1)).fewest!.frames).toHaveLength(2)
  })
})
