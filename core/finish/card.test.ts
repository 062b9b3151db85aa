import {
  columns,
  gammaCurve,
  inverse,
  matrixProfile,
  P3_PRIMARIES,
  SRGB_CURVE,
  SRGB_PRIMARIES,
  times,
  WIDE_PRIMARIES,
  type Primaries,
} from '../formats'
import { cardColour, cardGains, spaceOf, type CardColour, type Space } from '.'
import { canvas, done, pixel } from './testCanvas'

const SPACES: [name: string, primaries: Primaries, curve: Uint8Array][] = [
  ['sRGB', SRGB_PRIMARIES, SRGB_CURVE],
  ['P3', P3_PRIMARIES, SRGB_CURVE],
  ['a wide space of one exponent', WIDE_PRIMARIES, gammaCurve(1.8)],
]

/** Warm light on a card of middle grey, in XYZ adapted to D50. */
const WARM: CardColour = [0.205, 0.2, 0.09]

/** The sample that a space has for so much light. */
const sampleOf = ({ light }: Space, wanted: number) => light.findIndex((amount) => amount >= wanted)

const spaces = SPACES.map(([name, primaries, curve]) => {
  const space = spaceOf(matrixProfile(name, primaries, curve))
  return { name, space, card: times(inverse(columns(primaries)), WARM).map((light) => sampleOf(space, light)) }
})

/** A frame of one colour with a card in the middle of it. */
const frameOf = ({ space, card }: (typeof spaces)[number]) =>
  canvas(60, 40, (x, y, c) => (Math.abs(x - 30) < 8 && Math.abs(y - 20) < 8 ? card[c] : 9000 + 4000 * c), { space })

test.each(spaces)('the colour of a card is the same whatever space its frame is in: $name', (of) => {
  const [x, y, z] = cardColour(frameOf(of), [0.5, 0.5], 0.08)
  expect(y).toBe(1)
  expect(x).toBeCloseTo(WARM[0] / WARM[1], 2)
  expect(z).toBeCloseTo(WARM[2] / WARM[1], 2)
})

test.each(spaces)('with it the card is grey and as light as before, in every space: $name', async (of) => {
  // Measured in another space than the picture is in: a proof is in sRGB, the file in its own.
  const card = cardColour(frameOf(spaces[0]), [0.5, 0.5], 0.08)
  const made = await done(frameOf(of), { do: 'card', card })
  const after = pixel(made, 30, 20).map((sample) => of.space.light[sample])
  for (const light of after) expect(light / WARM[1]).toBeCloseTo(1, 2)
})

test('white of the profile changes nothing', async () => {
  const [{ space }] = spaces
  for (const gain of cardGains([0.9642, 1, 0.8249], space)) expect(gain).toBeCloseTo(1, 3)
  const made = await done(
    canvas(1, 1, (_x, _y, c) => [30_000, 26_000, 20_000][c]),
    { do: 'card', card: [0.9642, 1, 0.8249] },
  )
  pixel(made, 0, 0).forEach((sample, c) => expect(Math.abs(sample - [30_000, 26_000, 20_000][c])).toBeLessThan(20))
})

test('a card that is white or black in the frame is refused', () => {
  const even = (sample: number) => canvas(40, 40, () => sample)
  expect(() => cardColour(even(65_535), [0.5, 0.5], 0.1)).toThrow(expect.objectContaining({ code: 'finish.cardLight' }))
  expect(() => cardColour(even(300), [0.5, 0.5], 0.1)).toThrow(expect.objectContaining({ code: 'finish.cardDark' }))
  // A speck of white on it does not matter, half of it does.
  const speck = canvas(40, 40, (x, y) => (x === 20 && y === 20 ? 65_535 : 30_000))
  expect(cardColour(speck, [0.5, 0.5], 0.3)[0]).toBeCloseTo(0.9642, 2)
  const half = canvas(40, 40, (x) => (x < 20 ? 65_535 : 30_000))
  expect(() => cardColour(half, [0.5, 0.5], 0.1)).toThrow(expect.objectContaining({ code: 'finish.cardLight' }))
})

test('at the edge of a frame what lies within it counts', () => {
  const [of] = spaces
  const corner = canvas(60, 40, (x, y, c) => (x < 6 && y < 6 ? of.card[c] : 9000), { space: of.space })
  expect(cardColour(corner, [0, 0], 0.05)[2]).toBeCloseTo(WARM[2] / WARM[1], 2)
})
