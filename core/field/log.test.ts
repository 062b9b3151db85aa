import { framesTold, type FieldEntry, type FieldEvent } from '.'

const log = (...events: FieldEvent[]): FieldEntry[] => events.map((event, k) => ({ id: `e${k}`, at: `2026-05-11T09:30:0${k}.000Z`, ...event }))

test('a log tells of every frame that was exposed, in whatever way, and of none that was not', () => {
  expect(framesTold([])).toBe(0)
  expect(
    framesTold(
      log(
        { kind: 'prepared', line: 'Stabiliser off', done: true },
        { kind: 'taken' },
        { kind: 'bracketed', frames: 7 },
        { kind: 'missed' },
        { kind: 'repeated' },
        { kind: 'begin' },
        { kind: 'extra', what: 'divider' },
        { kind: 'filled', position: 2 },
        { kind: 'paused' },
      ),
    ),
  ).toBe(11)
  expect(framesTold(log({ kind: 'taken' }, { kind: 'undone', entry: 'e0' }, { kind: 'taken' }, { kind: 'cleared', entry: 'e2' }))).toBe(0)
})
