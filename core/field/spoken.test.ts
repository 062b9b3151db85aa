import { spokenOf, spokenPartOf } from '.'

test('the first phase of a frame says its number, and the reading in words', () => {
  expect(spokenOf({ kind: 'move' }, { number: 12, first: true, reading: 'a turn and 30 marks' })).toBe('Frame 12. Focus to a turn and 30 marks.')
  expect(spokenOf({ kind: 'move' }, { number: 3, first: true, reading: 'halfway from 1 m to ∞' })).toBe(
    'Frame 3. Focus to halfway from 1 metres to infinity.',
  )
  expect(spokenOf({ kind: 'move' }, { number: 3, first: false, reading: '4.57 mm' })).toBe('Focus to 4.57 millimetres.')
})

test('what is counted says how long, what is too short to count does not', () => {
  expect(spokenOf({ kind: 'wait', seconds: 3.2 }, { number: 1, first: false, reading: '' })).toBe('Hands off. 3 seconds.')
  expect(spokenOf({ kind: 'expose', seconds: 0.125 }, { number: 1, first: false, reading: '' })).toBe('Exposing.')
  expect(spokenOf({ kind: 'confirm' }, { number: 1, first: false, reading: '', asked: true })).toBe('Taken?')
  expect(spokenOf({ kind: 'confirm' }, { number: 1, first: false, reading: '' })).toBe('Press now.')
  expect(spokenOf({ kind: 'shutter' }, { number: 1, first: false, reading: '' })).toBe('Press now.')
})

test('a press of the body’s own bracketing says what to set and where to begin, then how long to leave it alone', () => {
  const whole = { part: 1, of: 1, step: 4, frames: 21, begin: 'the near edge', seconds: 42.3 }
  expect(spokenPartOf(whole, false)).toBe('Step 4, 21 frames. Begin at the near edge. Press once.')
  expect(spokenPartOf({ ...whole, part: 2, of: 3 }, false)).toBe('Part 2 of 3. Step 4, 21 frames. Leave the ring alone. Press once.')
  expect(spokenPartOf(whole, true)).toBe('Hands off. 42 seconds. All taken?')
})
