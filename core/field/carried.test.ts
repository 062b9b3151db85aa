import * as fc from 'fast-check'
import { joinedParts, partsOf } from '.'

const refused = (read: string[]) => {
  try {
    joinedParts(read)
  } catch (error) {
    return (error as { code: string }).code
  }
  return undefined
}

test('a text comes together from its parts in any order, read twice, with other codes between', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 4000 }), fc.integer({ min: 1, max: 50 }), (text, turn) => {
      const parts = partsOf(text, 'a1b2')
      expect(parts.every((part) => part.length < 740)).toBe(true)
      const shuffled = [...parts, 'https://example.org/x', parts[0]].sort((a, b) => ((a.length * turn) % 7) - ((b.length * turn) % 7))
      expect(joinedParts(shuffled)).toBe(text)
    }),
  )
})

test('what is missing is told by number, and parts of two logs are not mixed', () => {
  const parts = partsOf('x'.repeat(2000), 'one')
  expect(parts).toHaveLength(3)
  expect(refused([parts[0], parts[2]])).toBe('carried.missing')
  expect(() => joinedParts([parts[0], parts[2]])).toThrow(/2 of 3/)
  expect(refused([...parts, ...partsOf('y', 'two')])).toBe('carried.several')
  expect(refused(['anything', ''])).toBe('carried.none')
  expect(refused([])).toBe('carried.none')
})
