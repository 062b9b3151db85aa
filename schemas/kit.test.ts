import { checkKit, checkKitItem } from '.'
import { refusedAt } from './testRefusal'

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

test('measured strides are of three kinds; those that were kept before are of step numbers, and may be left out of plans', () => {
  const step = { name: 'Step 2', body: 'Body A', lens: 'Macro', fNumber: 8, magnification: 0.5, step: 2, stride_mm: 0.62 }
  expect(checkKitItem('calibrations', step)).toEqual({ ...step, kind: 'step' })
  const rail = { name: 'Rail', kind: 'rail', rail: 'Bench rail', dial_mm: 0.5, stride_mm: 0.49, leftOut: true }
  expect(checkKitItem('calibrations', rail)).toEqual(rail)
  const click = { name: 'Clicks', kind: 'click', lens: 'Macro', magnification: 1, clicks: 2.5, stride_mm: 0.4, spread_mm: 0.01 }
  expect(checkKitItem('calibrations', click)).toEqual(click)
  expect(refusedAt(() => checkKitItem('calibrations', { ...rail, step: 2 }))).toEqual(['step', 'value.object.unknown'])
  expect(refusedAt(() => checkKitItem('calibrations', { ...rail, leftOut: 'perhaps' }))).toEqual(['leftOut', 'value.boolean.base'])
})

test.each([
  ['lenses', { ...lens, name: ' ' }, 'name', 'value.string.empty'],
  ['lenses', { ...lens, focalLength_mm: 0 }, 'focalLength_mm', 'value.number.min'],
  ['lenses', { ...lens, focalLength_mm: undefined }, 'focalLength_mm', 'value.any.required'],
  ['lenses', { ...lens, widestFNumber: 32 }, 'widestFNumber', 'kit.apertureOrder'],
  ['lenses', { ...lens, colour: 'black' }, 'colour', 'value.object.unknown'],
  ['attachments', { name: 'x', kind: 'sponge' }, 'kind', 'value.any.only'],
  ['attachments', { name: 'x', kind: 'tube', focalLength_mm: 3, extension_mm: 1 }, 'focalLength_mm', 'value.object.unknown'],
  ['attachments', { name: 'x', kind: 'bellows', shortest_mm: 90, longest_mm: 40 }, 'shortest_mm', 'kit.extensionOrder'],
  [
    'rails',
    { name: 'x', kind: 'dial', pitch_mm: 1, marksPerTurn: 2.5, length_mm: 10, backlash_mm: 0, settle_s: 0 },
    'marksPerTurn',
    'value.number.integer',
  ],
  ['bodies', null, '', 'value.object.base'],
] as const)('%s %j is refused at %s', (shelf, item, field, code) =>
  expect(() => checkKitItem(shelf, item)).toThrow(expect.objectContaining({ code, field })),
)

test('a kit of other shelves, or none, is refused with the item to mend', () => {
  expect(checkKit({ lenses: [lens] })).toMatchObject({ lenses: [lens], bodies: [], rails: [] })
  expect(() => checkKit({ lenses: [lens, { name: 'x' }] })).toThrow(
    expect.objectContaining({ code: 'value.any.required', field: 'lenses.1', message: expect.stringContaining('item 2') }),
  )
  expect(() => checkKit({ cats: [] })).toThrow(expect.objectContaining({ code: 'value.object.unknown' }))
  expect(() => checkKit('kit')).toThrow(expect.objectContaining({ code: 'value.object.base' }))
})
