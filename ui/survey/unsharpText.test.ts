import { unsharpText } from './UnsharpOverlay'

const none = { share_percent: 0, near_percent: 0, far_percent: 0, between_percent: 0, missing: { near: 0, far: 0 }, file: 'a.jpg', map: [] }

test('only what is there is listed, in whole percent', () => {
  expect(unsharpText({ ...none, far_percent: 41.3, near_percent: 0.4 })).toBe('Sharp in no frame: 41 % behind the last slice.')
  expect(unsharpText({ ...none, near_percent: 12, between_percent: 3.6 })).toBe(
    'Sharp in no frame: 12 % in front of the first slice, 4 % between slices.',
  )
})
