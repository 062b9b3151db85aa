import { checkKit, checkKitItem } from '.'

const lens = {
  name: 'Old 90 mm',
  focalLength_mm: 90,
  widestFNumber: 4,
  smallestFNumber: 22,
  nearest_mm: 400,
  mostMagnification: 0.5,
  pupilRatio: 1,
  length_mm: 90,
}

test('an item with the facts of its kind is kept as it is', () => {
  expect(checkKitItem('lenses', lens)).toEqual(lens)
  expect(checkKitItem('attachments', { name: ' Tube ', kind: 'tube', extension_mm: 12 })).toEqual({ name: 'Tube', kind: 'tube', extension_mm: 12 })
})

test.each([
  ['lenses', { ...lens, name: ' ' }, 'name', 'Say what the lens is called'],
  ['lenses', { ...lens, focalLength_mm: 0 }, 'focalLength_mm', 'Focal length: give a number from 0.001 to 5000 mm'],
  ['lenses', { ...lens, focalLength_mm: undefined }, 'focalLength_mm', 'Focal length: give'],
  ['lenses', { ...lens, widestFNumber: 32 }, 'widestFNumber', 'swap the two'],
  ['lenses', { ...lens, colour: 'black' }, 'colour', 'is no fact of a lens'],
  ['attachments', { name: 'x', kind: 'sponge' }, 'kind', 'Choose what kind of attachment'],
  ['attachments', { name: 'x', kind: 'tube', focalLength_mm: 3, extension_mm: 1 }, 'focalLength_mm', 'is no fact'],
  ['attachments', { name: 'x', kind: 'bellows', shortest_mm: 90, longest_mm: 40 }, 'shortest_mm', 'swap the two'],
  [
    'rails',
    { name: 'x', kind: 'dial', pitch_mm: 1, marksPerTurn: 2.5, length_mm: 10, backlash_mm: 0, settle_s: 0 },
    'marksPerTurn',
    'a whole number',
  ],
  ['bodies', null, '', 'is an object with a name'],
] as const)('%s %j is refused at %s', (shelf, item, field, words) => {
  expect(() => checkKitItem(shelf, item)).toThrow(words)
  try {
    checkKitItem(shelf, item)
  } catch (error) {
    expect((error as { field: string }).field).toBe(field)
  }
})

test('a kit of other shelves, or none, is refused with the item to mend', () => {
  expect(checkKit({ lenses: [lens] })).toMatchObject({ lenses: [lens], bodies: [], rails: [] })
  expect(() => checkKit({ lenses: [lens, { name: 'x' }] })).toThrow('Lenses, item 2: Focal length')
  expect(() => checkKit({ cats: [] })).toThrow('no shelf of a kit')
  expect(() => checkKit('kit')).toThrow('holds no kit')
})
