import { createPlane } from '../raster'
import { inOrderTaken, splitAsTaken } from './cardOrder'
import type { CardFrame } from './split'

const motif = createPlane(1, 1)
const card = (...files: [file: string, taken_s?: number][]): CardFrame[] =>
  files.map(([file, taken_s]) => ({ file, ...(taken_s !== undefined && { taken_ms: 1000 * taken_s }), width: 6, height: 4, motif }))
const order = (frames: CardFrame[]) => inOrderTaken(frames).frames.map(({ file }) => file)

test('times say the order, whatever the names: numbers start anew after the highest', () => {
  const rolled = card(['P_0001.jpg', 30], ['P_0002.jpg', 34], ['P_9998.jpg', 10], ['P_9999.jpg', 14])
  expect(order(rolled)).toEqual(['P_9998.jpg', 'P_9999.jpg', 'P_0001.jpg', 'P_0002.jpg'])
  expect(inOrderTaken(rolled).clock).toBeUndefined()
  expect(order(card(['a.jpg', 8], ['b.jpg', 4], ['c.jpg', 0]))).toEqual(['c.jpg', 'b.jpg', 'a.jpg'])
})

test('without all of the times the names say it', () => {
  expect(order(card(['a.jpg', 8], ['b.jpg']))).toEqual(['a.jpg', 'b.jpg'])
})

test('a clock that was set back in the middle of a series does not turn it round, and is told', () => {
  const frames = card(['f_01.jpg', 100], ['f_02.jpg', 104], ['f_03.jpg', 20], ['f_04.jpg', 24])
  const { frames: ordered, clock } = inOrderTaken(frames)
  expect(ordered.map(({ file }) => file)).toEqual(['f_01.jpg', 'f_02.jpg', 'f_03.jpg', 'f_04.jpg'])
  expect(ordered.map(({ taken_ms }) => taken_ms)).toEqual([100_000, 104_000, 104_001, 108_001])
  expect(clock).toMatchObject({ code: 'split.clock', text: expect.stringContaining('f_02.jpg') })
  // A second too early is no other clock.
  expect(inOrderTaken(card(['f_01.jpg', 100], ['f_02.jpg', 99])).clock).toBeUndefined()
})

test('two cameras that shot at once are two series, one after the other', () => {
  /** Stripes across or down, as two motifs. */
  const seen = (kind: number) => {
    const plane = createPlane(12, 8)
    plane.data.forEach((_, i) => (plane.data[i] = kind === 0 ? (i % 12) / 12 : Math.floor(i / 12) / 8))
    return plane
  }
  const camera = (name: string, kind: number) =>
    card(...Array.from({ length: 5 }, (_, k): [string, number] => [`${name}_${k}.jpg`, 4 * k])).map((frame) => ({ ...frame, motif: seen(kind) }))
  const { series, dividers } = splitAsTaken([...camera('a', 0), ...camera('b', 1)])
  expect([series.map(({ files }) => files.length), dividers]).toEqual([[5, 5], []])
  expect(series[1].reasonCode).toBe('split.motif')
})
