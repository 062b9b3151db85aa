import type { MendEdit } from '@/core/mend'
import { check, mendSchema, newEditsSchema, newMendSchema } from '.'
import { refusedAt } from './testRefusal'

const stroke = { id: 'a', path: [[1, 2]], radius_px: 12, softness: 0.3, opacity: 0.9 }
const EDITS = {
  donor: { ...stroke, kind: 'donor', frame: 'frame_003.jpg', evenTone: true },
  render: { ...stroke, kind: 'render', file: 'lace.tif', evenTone: false },
  heal: { ...stroke, kind: 'heal' },
  original: { ...stroke, kind: 'original' },
  undo: { id: 'b', kind: 'undo', of: 'a' },
} as unknown as Record<MendEdit['kind'], MendEdit>

test.each(Object.entries(EDITS))('an edit of the kind %s is read as it is', (_, edit) => {
  expect(check(mendSchema, { edits: [edit] })).toEqual({ base: 'fused', edits: [edit] })
})

test('a stroke is half soft and whole where nothing is said of it; a gate that is open at one end reaches on', () => {
  const { edits } = check(mendSchema, { edits: [{ id: 'a', kind: 'heal', path: [[1, 2]], radius_px: 12, gate: { near: 0.4 } }] })
  expect(edits[0]).toMatchObject({ softness: 0.5, opacity: 1, gate: { near: 0.4, far: 1 } })
})

const changed = (kind: MendEdit['kind'], part: object) => ({ edits: [{ ...EDITS[kind], ...part }] })

test.each<[string, object, string, string]>([
  ['no edits', {}, 'edits', 'value.any.required'],
  ['an edit nobody knows', { edits: [{ id: 'a', kind: 'melt' }] }, 'edits.0.kind', 'value.any.only'],
  ['an edit without an id', changed('heal', { id: undefined }), 'edits.0.id', 'value.any.required'],
  ['a stroke without places', changed('heal', { path: [] }), 'edits.0.path', 'value.array.min'],
  ['a place of one number', changed('heal', { path: [[1]] }), 'edits.0.path.0', 'value.array.includesRequiredUnknowns'],
  ['a place that is a word', changed('heal', { path: [['left', 2]] }), 'edits.0.path.0.0', 'value.number.base'],
  ['no radius', changed('donor', { radius_px: 0 }), 'edits.0.radius_px', 'value.number.greater'],
  ['a radius beyond every picture', changed('donor', { radius_px: 30_000 }), 'edits.0.radius_px', 'value.number.max'],
  ['more than whole', changed('donor', { opacity: 1.1 }), 'edits.0.opacity', 'value.number.max'],
  ['a frame without a name', changed('donor', { frame: '' }), 'edits.0.frame', 'value.string.empty'],
  ['a gate beyond the depth', changed('donor', { gate: { far: 2 } }), 'edits.0.gate.far', 'value.number.max'],
  ['an undo of nothing', changed('undo', { of: undefined }), 'edits.0.of', 'value.any.required'],
  ['a picture file among the facts', changed('heal', { pixels: 'x' }), 'edits.0.pixels', 'value.object.unknown'],
])('%s is refused where it stands', (_, document, field, code) => {
  expect(refusedAt(() => check(mendSchema, document))).toEqual([field, code])
})

describe('what is painted on', () => {
  const lines = (...frames: string[]) => frames.map((frame, k) => ({ frame, ...(k < frames.length - 1 && { until: [[0, 10], [100, 12]] }) })) // prettier-ignore

  test('is the fused picture, a frame, or frames up to lines', () => {
    expect(check(newMendSchema, {})).toEqual({ title: 'Mend', base: 'fused' })
    expect(check(newMendSchema, { title: ' Left wing ', base: { frame: 'f1.jpg' } })).toEqual({ title: 'Left wing', base: { frame: 'f1.jpg' } })
    const { base } = check(newMendSchema, { base: { boundaries: lines('near.jpg', 'far.jpg') } })
    expect(base).toMatchObject({ boundaries: [{ frame: 'near.jpg', width_px: 40 }, { frame: 'far.jpg' }] })
  })

  test.each([
    ['the picture of a render', 'render'],
    ['a frame without a name', { frame: '' }],
    ['one frame with lines', { boundaries: lines('one.jpg') }],
    ['nine frames with lines', { boundaries: lines(...Array.from({ length: 9 }, (_, k) => `f${k}.jpg`)) }],
    ['a line without places', { boundaries: [{ frame: 'a.jpg', until: [] }, { frame: 'b.jpg' }] }],
  ])('is nothing else: %s', (_, base) => {
    expect(refusedAt(() => check(newMendSchema, { base }))[0]).toMatch(/^base/)
  })

  test('a title may be so long', () => {
    expect(refusedAt(() => check(newMendSchema, { title: 'x'.repeat(121) }))).toEqual(['title', 'value.string.max'])
  })
})

test('edits come some at a time', () => {
  const many = (count: number) => ({ edits: Array.from({ length: count }, (_, k) => ({ ...EDITS.heal, id: `e${k}` })) })
  expect(check(newEditsSchema, many(500)).edits).toHaveLength(500)
  expect(refusedAt(() => check(newEditsSchema, many(0)))).toEqual(['edits', 'value.array.min'])
  expect(refusedAt(() => check(newEditsSchema, many(501)))).toEqual(['edits', 'value.array.max'])
})
