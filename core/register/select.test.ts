import * as fc from 'fast-check'
import { valueAt } from './select'

test('answers what sorting would, wherever it is asked', () => {
  fc.assert(
    fc.property(fc.array(fc.float({ noNaN: true }), { minLength: 1, maxLength: 200 }), fc.nat(), (list, n) => {
      const sorted = Float32Array.from(list).sort()
      const place = n % list.length
      expect(valueAt(Float32Array.from(list), place)).toBe(sorted[place])
    }),
  )
})

test.each([
  ['all alike', () => 3],
  ['in order', (k: number) => k],
  ['the other way round', (k: number) => -k],
  ['few values', (k: number) => (k * 7919) % 5],
])('%s, many of them', (_, of) => {
  const values = Float32Array.from({ length: 10_001 }, (_, k) => of(k))
  const sorted = values.slice().sort()
  for (const place of [0, 17, 5000, 9999, 10_000]) expect(valueAt(values.slice(), place)).toBe(sorted[place])
})
