import { fromInterleaved, IDENTITY } from '../raster'
import { randomStream } from '../simulate/random'
import { STYLES, type HeldBack } from '.'

const [WIDTH, HEIGHT] = [192, 128]

/** Samples of a frame: what is common, and at the left something that lies elsewhere in each. */
function frame(k: number): Uint16Array {
  const random = randomStream(5)
  const texture = Float32Array.from({ length: WIDTH * HEIGHT }, () => random())
  const own = randomStream(20 + k)
  const elsewhere = Float32Array.from({ length: WIDTH * HEIGHT }, () => own())
  return Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, s) => {
    const i = Math.floor(s / 3)
    const x = i % WIDTH
    return 20_000 + 20_000 * (x < WIDTH / 2 ? elsewhere[i] : texture[i])
  })
}

const frames = [0, 1, 2].map(frame)
/** Left of the middle, and a little beyond, frames are held back but the second. */
const left: HeldBack = {
  width: WIDTH / 2,
  height: HEIGHT / 2,
  data: Uint8Array.from({ length: (WIDTH * HEIGHT) / 4 }, (_, i) => Number(i % (WIDTH / 2) < 52)),
}

describe.each(Object.values(STYLES))('$name', (style) => {
  const fuse = (heldBack?: (index: number) => HeldBack | undefined) => {
    const accumulator = style.create({ width: WIDTH, height: HEIGHT, heldBack })
    frames.forEach((samples, index) => accumulator.add({ index, samples, motion: IDENTITY, gain: 1 }))
    const { samples, ...maps } = accumulator.finish()
    return { picture: fromInterleaved(samples, WIDTH, HEIGHT), source: maps.source() }
  }
  const only = fromInterleaved(frames[1], WIDTH, HEIGHT)
  /** The most that the picture differs from the second frame, between two columns. */
  const off = ({ picture }: ReturnType<typeof fuse>, from: number, to: number) => {
    let most = 0
    for (let y = 8; y < HEIGHT - 8; y++)
      for (let x = from; x < to; x++) most = Math.max(most, Math.abs(picture.planes[1].data[y * WIDTH + x] - only.planes[1].data[y * WIDTH + x]))
    return most
  }

  test('what moved is the one frame’s, not a mixture, and so is the source', () => {
    const [mixed, one] = [fuse(), fuse((index) => (index === 1 ? undefined : left))]
    expect(off(mixed, 4, 88)).toBeGreaterThan(0.1)
    expect(off(one, 4, 88)).toBeLessThan(0.004)
    for (let y = 8; y < HEIGHT / 2 - 8; y++) for (let x = 2; x < 44; x++) expect(one.source.data[y * (WIDTH / 2) + x]).toBe(1)
  })

  test('beside it the picture is as it was', () => {
    const [mixed, one] = [fuse(), fuse((index) => (index === 1 ? undefined : left))]
    let most = 0
    for (let y = 8; y < HEIGHT - 8; y++)
      for (let x = 124; x < WIDTH; x++)
        most = Math.max(most, Math.abs(mixed.picture.planes[0].data[y * WIDTH + x] - one.picture.planes[0].data[y * WIDTH + x]))
    expect(most).toBeLessThan(0.004)
  })
})
