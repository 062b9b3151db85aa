import { FAULT_WORDS, randomStream, usualFaults, type Fault, type SeriesRequest } from '@/core/simulate'
import { check, sceneRequestSchema, standInSchema } from '.'

const scene = (change: object) => check<SeriesRequest>(sceneRequestSchema, { scene: 'nib', positions_mm: [0, 1, 2, 3, 4, 5, 6, 7], ...change })

describe('faults of a scene', () => {
  test.each(Object.keys(FAULT_WORDS) as Fault['kind'][])('%s is taken with its usual size', (kind) => {
    const faults = usualFaults([kind], 8, randomStream(1))
    expect(scene({ faults }).faults).toEqual(faults)
  })

  test('what is not said has a usual size', () => {
    expect(scene({ faults: [{ kind: 'bump', frame: 3 }] }).faults).toEqual([{ kind: 'bump', frame: 3, shift_percent: 2.5 }])
    expect(scene({ faults: [{ kind: 'bump', frame: 3, pushed: true }] }).faults).toMatchObject([{ shift_percent: 2.5, pushed: true }])
    expect(scene({ faults: [{ kind: 'endShort' }] }).faults).toEqual([{ kind: 'endShort', frames: 4 }])
    expect(scene({}).faults).toBeUndefined()
  })

  test.each([
    [{ kind: 'gremlins' }],
    [{ kind: 'bump' }],
    [{ kind: 'bump', frame: 0 }],
    [{ kind: 'bump', frame: 2, shift_percent: 90 }],
    [{ kind: 'bump', frame: 2, pushed: 'far' }],
    [{ kind: 'noFlash', frame: 2, colour: 'red' }],
    [{ kind: 'dust', specks: 1000 }],
    ['bump'],
  ])('%j is refused', (fault) => expect(() => scene({ faults: [fault] })).toThrow())
})

describe('what the stand-in is asked for', () => {
  test('nothing goes wrong where nothing is said, and JPEGs are written', () =>
    expect(check(standInSchema, {})).toEqual({ faults: [], files: 'jpg' }))
  test('each fault once, and only known ones', () => {
    expect(check(standInSchema, { faults: ['bump', 'dust'] })).toEqual({ faults: ['bump', 'dust'], files: 'jpg' })
    expect(() => check(standInSchema, { faults: ['bump', 'bump'] })).toThrow()
    expect(() => check(standInSchema, { faults: ['storm'] })).toThrow()
    expect(() => check(standInSchema, { files: 'tif' })).toThrow()
  })
})
