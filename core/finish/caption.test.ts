import { filledCaption, finish, shapeAfter, withFacts, type Step } from '.'
import { canvas, TOOLS } from './testCanvas'

/** Each letter is a block, half as wide as high. */
const LETTERS = {
  ...TOOLS,
  words: async (text: string, height: number) => {
    const width = Math.ceil((text.length * height) / 2)
    return { width, height, data: new Uint8Array(width * height).fill(255) }
  },
}
const flat = (width: number, height: number) => canvas(width, height, () => 20_000)

test('facts are filled in; what is not known leaves no gap behind', () => {
  const facts = { title: 'Coil', magnification: '1.2 : 1', date: '3 May 2026' }
  expect(filledCaption('{title}\n{lens}\n{magnification}, {aperture}, {date}', facts)).toBe('Coil\n1.2 : 1, 3 May 2026')
  expect(filledCaption('{lens}, {title} (drawer C)', facts)).toBe('Coil (drawer C)')
  expect(filledCaption('as it stands, untouched', {})).toBe('as it stands, untouched')
  expect(filledCaption('{lens}', facts)).toBe('')
  const steps: Step[] = [
    { do: 'light', stops: 1 },
    { do: 'caption', text: '{lens}', tone: 'light' },
  ]
  expect(withFacts(steps, facts)).toEqual([steps[0]])
})

test('a caption stands beneath the picture, which keeps its samples; the strip is paper with ink on it', async () => {
  const picture = flat(300, 200)
  const before = picture.samples.slice()
  const step: Step = { do: 'caption', text: 'First line\nSecond', tone: 'light' }
  const done = await finish(picture, [step], LETTERS)
  expect({ width: done.width, height: done.height }).toEqual(shapeAfter([step], { width: 300, height: 200 }))
  expect(done.samples.subarray(0, before.length)).toEqual(before)
  const strip = done.samples.subarray(before.length)
  const paper = Math.round(0.95 * 65535)
  expect(Math.max(...strip)).toBe(paper)
  expect(Math.min(...strip)).toBe(Math.round(0.1 * 65535))
  // Ink begins where the margin ends: a thirtieth of the shorter side in.
  const inked = [...strip.keys()].filter((i) => strip[i] < paper).map((i) => Math.floor(i / 3) % 300)
  expect(Math.min(...inked)).toBe(7)
})

test('on dark paper ink is light; a long line is broken between words and stays within the picture', async () => {
  const long = 'word '.repeat(40).trim()
  const done = await finish(flat(300, 200), [{ do: 'caption', text: long, tone: 'dark' }], LETTERS)
  const strip = done.samples.subarray(3 * 300 * 200)
  // 199 letters, some 85 to a line.
  expect(done.height).toBe(200 + 2 * 3 + 3 * 8)
  expect(Math.min(...strip)).toBe(Math.round(0.08 * 65535))
  const inked = [...strip.keys()].filter((i) => strip[i] > 60_000).map((i) => Math.floor(i / 3) % 300)
  expect(Math.max(...inked)).toBeLessThan(300 - 7)
})

test('depth and confidence of the picture go on below as nothing', async () => {
  const picture = { ...flat(60, 40), depth: { width: 60, height: 40, data: new Uint16Array(2400).fill(5) } }
  const { depth, height } = await finish(picture, [{ do: 'caption', text: 'x', tone: 'light' }], LETTERS)
  expect(depth!.height).toBe(height)
  expect(depth!.data[2399]).toBe(5)
  expect(depth!.data[2400]).toBe(0)
})
