import { randomUUID } from 'node:crypto'
import type { FieldEvent } from '@/core/field'
import { check, claimSchema, deviceCallSchema, fieldLogSchema } from '.'
import { storedFieldEvent } from './stored'
import { refusedAt } from './testRefusal'

const ID = '5d0b6f1c-26b8-4b0a-9f0e-0d9b9b1c6a11'
const stamp = { id: ID, at: '2026-05-11T09:30:00.000Z' }
const EVENTS: { [K in FieldEvent['kind']]: Extract<FieldEvent, { kind: K }> } = {
  begin: { kind: 'begin' },
  returned: { kind: 'returned', run: '' },
  prepared: { kind: 'prepared', line: 'Stabiliser off, in body and lens', done: true },
  taken: { kind: 'taken', position: 4.5 },
  bracketed: { kind: 'bracketed', frames: 37 },
  filled: { kind: 'filled', position: -0.2 },
  repeated: { kind: 'repeated' },
  extra: { kind: 'extra', what: 'divider' },
  missed: { kind: 'missed' },
  cleared: { kind: 'cleared', entry: ID },
  undone: { kind: 'undone', entry: ID },
  paused: { kind: 'paused' },
  resumed: { kind: 'resumed' },
}

test.each(Object.entries(EVENTS))('an entry of the kind %s is taken in, kept, and read again', (_, event) => {
  expect(check(fieldLogSchema, { entries: [{ ...stamp, ...event }] })).toEqual({ entries: [{ ...stamp, ...event }] })
  expect(storedFieldEvent(JSON.stringify(event))).toEqual(event)
})

test.each<[string, object, string, string]>([
  ['an entry nobody knows', { kind: 'lent' }, 'entries.0.kind', 'value.any.only'],
  ['an id that is none', { kind: 'taken', id: 'first' }, 'entries.0.id', 'value.string.guid'],
  ['a time that is none', { kind: 'taken', at: 'this morning' }, 'entries.0.at', 'value.string.isoDate'],
  ['a position beyond the world', { kind: 'taken', position: 1e12 }, 'entries.0.position', 'value.number.max'],
  ['half a frame', { kind: 'bracketed', frames: 1.5 }, 'entries.0.frames', 'value.number.integer'],
  ['a gap filled nowhere', { kind: 'filled' }, 'entries.0.position', 'value.any.required'],
  ['an extra of no kind', { kind: 'extra', what: 'cat' }, 'entries.0.what', 'value.any.only'],
  ['a tick on no line', { kind: 'prepared', done: true }, 'entries.0.line', 'value.any.required'],
  ['a return to no run', { kind: 'returned', run: 'yesterday' }, 'entries.0.run', 'value.string.guid'],
  ['facts of another kind', { kind: 'missed', frames: 3 }, 'entries.0.frames', 'value.object.unknown'],
])('%s is refused where it stands', (_, event, field, code) => {
  expect(refusedAt(() => check(fieldLogSchema, { entries: [{ ...stamp, ...event }] }))).toEqual([field, code])
})

test('a phone that was away long sends its log in parts', () => {
  const entries = Array.from({ length: 2001 }, () => ({ ...stamp, id: randomUUID(), kind: 'taken' }))
  expect(check(fieldLogSchema, { entries: entries.slice(1) }).entries).toHaveLength(2000)
  expect(refusedAt(() => check(fieldLogSchema, { entries }))).toEqual(['entries', 'value.array.max'])
})

test('an entry that was kept and is damaged is reported by a sentence', () => {
  expect(refusedAt(() => storedFieldEvent('{"kind":"taken","position":"near"}'))[1]).toBe('shoot.unreadable')
  expect(refusedAt(() => storedFieldEvent('{"kind":'))[1]).toBe('shoot.unreadable')
})

describe('what is asked of the devices', () => {
  test('opens a bench without faults where none are named', () => {
    expect(check(deviceCallSchema, { do: 'open' })).toEqual({ do: 'open', faults: [], width_px: 1200 })
    expect(check(deviceCallSchema, { do: 'press' })).toMatchObject({ do: 'press', run: '' })
  })

  test.each<[string, object, string]>([
    ['something they cannot do', { do: 'dance' }, 'do'],
    ['a fault twice', { do: 'open', faults: ['bump', 'bump'] }, 'faults.1'],
    ['a fault that they have not', { do: 'open', faults: ['stirred'] }, 'faults.0'],
    ['a picture of any size', { do: 'open', width_px: 800 }, 'width_px'],
    ['half a step', { do: 'drive', steps: 0.5 }, 'steps'],
    ['a place beyond the rail', { do: 'move', position_mm: 5000 }, 'position_mm'],
    ['an aperture that no lens has', { do: 'set', change: { fNumber: 0.1 } }, 'change.fNumber'],
    ['a look beside the picture', { do: 'look', look: { spot: { x: 1.5, y: 0 }, magnifier: true } }, 'look.spot.x'],
    ['a supply of nothing', { do: 'supply', what: 'film' }, 'what'],
  ])('%s is refused', (_, call, field) => {
    expect(refusedAt(() => check(deviceCallSchema, call))[0]).toBe(field)
  })
})

test('a code may be typed with gaps and dashes, and a device has a name', () => {
  expect(check(claimSchema, { code: 'k7-m2 x9', name: ' Phone ' })).toEqual({ code: 'k7m2x9', name: 'Phone' })
  expect(refusedAt(() => check(claimSchema, { code: 'k7m2x9', name: ' ' }))).toEqual(['name', 'value.string.empty'])
  expect(refusedAt(() => check(claimSchema, { code: 'x'.repeat(41), name: 'Phone' }))).toEqual(['code', 'value.string.max'])
})
