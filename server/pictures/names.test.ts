import * as fc from 'fast-check'
import { refusalOf } from '@/schemas/testRefusal'
import { plainName, storedName } from './names'

const UID = '0f5c2c1e-9a3e-4a55-8d6e-2f0a6d3b7c11'

describe('names of frames', () => {
  test.each([
    '_FR01234.JPG',
    'près du mur.tif',
    'pre\u0300s.jpg',
    '蝶 01.png',
    "wing & leg, 'left' #3 [a].tiff",
    '.hidden.jpg',
    'a'.repeat(251) + '.jpg',
  ])('%s is taken as it is', (name) => expect(plainName(name)).toBe(name))

  test.each(['', '.', '..', 'a/b.jpg', 'a\\b.jpg', 'line\nbreak.jpg', 'nul\0.jpg', 'é'.repeat(126) + '.jpg'])('%j is refused', (name) => {
    expect(refusalOf(() => plainName(name)).code).toBe('frame.name')
  })
})

describe('what a frame is stored as', () => {
  test.each(['frame_001.jpg', 'Frame 1 (2).TIF', '_a.png'])('%s keeps its name', (name) => {
    expect(storedName(name, UID, [{ file: 'other.jpg' }])).toBe(name)
  })

  test.each([
    ['nul.jpg', '.jpg'],
    ['COM3.TIF', '.tif'],
    ['près.JPG', '.jpg'],
    ['ends with a dot.', ''],
    [' leading.png', '.png'],
    ['-option.png', '.png'],
  ])('%s, which not every disk keeps, gets a name of ours with the same ending', (name, ending) => {
    expect(storedName(name, UID, [])).toBe(`${UID}${ending}`)
  })

  test('a name that differs in capitals only does not lie on another frame', () => {
    expect(storedName('A.jpg', UID, [{ file: 'a.JPG' }])).toBe(`${UID}.jpg`)
  })

  test('whatever the name, the file lies in its folder under a name that every disk keeps', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 80 }), (name) => {
        const file = storedName(name, UID, [])
        expect(file === name || file.startsWith(UID)).toBe(true)
        expect(file).toMatch(/^[A-Za-z0-9_][A-Za-z0-9 ._()+-]*$/)
      }),
    )
  })
})
