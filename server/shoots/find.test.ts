import { found } from './find'
import type { Outline } from './summary'

const shoot = (id: number, change: Partial<Outline> = {}): Outline => ({
  id,
  title: `Shoot ${id}`,
  subject: '',
  state: 'planned',
  created_at: `2026-01-0${id}`,
  changed_at: `2026-01-0${id}`,
  frameCount: 0,
  usedCount: 0,
  fieldCount: 0,
  shot: undefined,
  render: undefined,
  ...change,
})
const ids = (list: Outline[]) => list.map(({ id }) => id)
const all = { words: '', state: '', order: 'changed' } as const

test('every word is looked for in title and notes, without case and accents', () => {
  const list = [shoot(1, { title: 'Café spoon', subject: 'silver' }), shoot(2, { title: 'Spoon' })]
  expect(ids(found(list, { ...all, words: 'cafe SILVER' }))).toEqual([1])
  expect(ids(found(list, { ...all, words: 'spoon' }))).toEqual([2, 1])
  expect(found(list, { ...all, words: 'fork' })).toEqual([])
})

test('sorted by change, date, state and title', () => {
  const list = [
    shoot(1, { changed_at: '2026-02-01', state: 'fused', title: 'Tray 10' }),
    shoot(2, { title: 'Tray 9' }),
    shoot(3, { state: 'shot', title: 'Ant' }),
  ]
  const by = (order: Parameters<typeof found>[1]['order']) => ids(found(list, { ...all, order }))
  expect(by('changed')).toEqual([1, 3, 2])
  expect(by('created')).toEqual([3, 2, 1])
  expect(by('oldest')).toEqual([1, 2, 3])
  expect(by('state')).toEqual([2, 3, 1])
  expect(by('title')).toEqual([3, 2, 1])
  expect(ids(found(list, { ...all, state: 'shot' }))).toEqual([3])
})
