import { sortBySize } from '.'

const file = (name: string, width: number, height = 40) => ({ name, size: { width, height } })

test('a stray size that comes first is named, and the others are kept', () => {
  const { kept, strays } = sortBySize([file('stray', 30), file('a', 60), file('b', 60), file('c', 60)])
  expect(kept.map(({ name }) => name)).toEqual(['a', 'b', 'c'])
  expect(strays).toEqual([{ file: file('stray', 30), size: '30 × 40', usual: '60 × 40' }])
})

test('upright and across are two sizes; of two that are as many the first counts', () => {
  const { kept, strays } = sortBySize([file('across', 60, 40), file('upright', 40, 60)])
  expect([kept.map(({ name }) => name), strays.map(({ file: { name } }) => name)]).toEqual([['across'], ['upright']])
})

test('what could not be read is left to whoever reads it whole', () => {
  const unknown = { name: 'tiff', size: null }
  expect(sortBySize([unknown, file('a', 60)]).kept).toHaveLength(2)
  expect(sortBySize([unknown])).toEqual({ kept: [unknown], strays: [] })
  expect(sortBySize([])).toEqual({ kept: [], strays: [] })
})
