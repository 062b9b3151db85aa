import { FRAME_ENDINGS, isPicture, isRaw, withoutPairs } from '.'

const named = (...names: string[]) => names.map((name) => ({ name }))

test('raw files and pictures are known by their endings, whatever the case', () => {
  expect(['a.dng', 'B.NEF', 'c.jpg', 'dng', 'd.txt', 'e.dng.txt'].filter(isRaw)).toEqual(['a.dng', 'B.NEF'])
  expect(['a.dng', 'b.TIFF', 'c.txt', 'd', 'e.'].filter(isPicture)).toEqual(['a.dng', 'b.TIFF'])
  expect(FRAME_ENDINGS.split(',')).toEqual(expect.arrayContaining(['.jpg', '.dng']))
})

test('of a frame that was written twice the raw file stays, and the other is named with it', () => {
  const { kept, pairs } = withoutPairs(named('f1.JPG', 'F1.DNG', 'f2.dng', 'f3.jpg'))
  expect(kept).toEqual(named('F1.DNG', 'f2.dng', 'f3.jpg'))
  expect(pairs).toEqual([{ file: { name: 'f1.JPG' }, raw: 'F1.DNG' }])
})
