import { fieldsOf, railStep_mm, SHELVES, STARTER_KIT, type KitItem, type Shelf } from '.'

const shelves = Object.keys(SHELVES) as Shelf[]
const items = shelves.flatMap((shelf) => STARTER_KIT[shelf].map((item): [Shelf, KitItem] => [shelf, item]))

describe('the facts of kit items', () => {
  test.each(items.map(([shelf, item]) => [item.name, shelf, item] as const))('%s has all facts of its kind and no others', (_, shelf, item) => {
    const fields = fieldsOf(shelf, (item as { kind?: string }).kind)
    const keys = Object.keys(item).filter((key) => key !== 'name' && key !== 'kind')
    for (const { key, optional } of fields) if (!optional) expect(keys).toContain(key)
    for (const key of keys) expect(fields.map((field) => field.key)).toContain(key)
  })

  test.each(items.map(([shelf, item]) => [item.name, shelf, item] as const))('%s lies within the bounds', (_, shelf, item) => {
    for (const { key, least, most, text } of fieldsOf(shelf, (item as { kind?: string }).kind)) {
      const value = (item as unknown as Record<string, number | undefined>)[key]
      if (text || value === undefined) continue
      expect(value).toBeGreaterThanOrEqual(least!)
      expect(value).toBeLessThanOrEqual(most!)
    }
  })

  test('names differ on every shelf', () => {
    for (const shelf of shelves) {
      const names = STARTER_KIT[shelf].map(({ name }) => name)
      expect(new Set(names).size).toBe(names.length)
    }
  })

  test('a kind has its own facts only', () => {
    const keys = (kind: string) => fieldsOf('rails', kind).map(({ key }) => key)
    expect(keys('dial')).toContain('marksPerTurn')
    expect(keys('ruler')).not.toContain('pitch_mm')
    expect(keys('motor')).toEqual(expect.arrayContaining(['pitch_mm', 'stepsPerTurn', 'microsteps', 'feed_mmPerMin']))
    expect(fieldsOf('attachments').map(({ key }) => key)).toEqual([])
  })
})

test('the smallest step of a rail is a mark, a division or a microstep', () => {
  const [dial, ruler, motor] = STARTER_KIT.rails
  expect(railStep_mm(dial)).toBeCloseTo(0.01, 12)
  expect(railStep_mm(ruler)).toBe(1)
  expect(railStep_mm(motor)).toBeCloseTo(1 / 3200, 12)
})
