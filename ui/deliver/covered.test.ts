import { coveredAfter, coveredOf } from './covered'

const frame = { width: 400, height: 300 }
const still = { file: 'a.jpg', scale: 1, rotation_deg: 0, dx_px: 0, dy_px: 0, gain_ev: 0, share_percent: 50 }
const whole = { x: 0, y: 0, ...frame }

test('what all frames show is told; a render that was cut to it has no edges to keep off', () => {
  const frames = [still, { ...still, file: 'b.jpg', dx_px: 12, dy_px: -5 }]
  const covered = coveredOf({ frames, crop: whole }, frame)!
  // A frame that lies 12 px to the right does not show the last 12 columns of the reference, nor its first 5 rows.
  expect(covered).toEqual({ x: 0, y: 5, width: 388, height: 295 })
  expect(coveredOf({ frames, crop: covered }, frame)).toBeUndefined()
  expect(coveredOf({ frames: [still], crop: whole }, frame)).toBeUndefined()
  // Frames that were left out do not count.
  expect(coveredOf({ frames: [still, { ...still, dx_px: 90, role: 'left out' }], crop: whole }, frame)).toBeUndefined()
})

test('after a crop it is where it lies then; after turning or resizing nothing is said', () => {
  const covered = { x: 10, y: 5, width: 380, height: 290 }
  expect(coveredAfter(covered, [])).toEqual(covered)
  expect(coveredAfter(covered, [{ do: 'crop', x: 4, y: 20, width: 300, height: 200 }])).toEqual({ x: 6, y: 0, width: 294, height: 200 })
  expect(coveredAfter(covered, [{ do: 'crop', x: 40, y: 20, width: 300, height: 200 }])).toBeUndefined()
  expect(coveredAfter(covered, [{ do: 'crop', x: 4, y: 20, width: 300, height: 200, off: true }])).toEqual(covered)
  expect(coveredAfter(covered, [{ do: 'straighten', degrees: 1 }])).toBeUndefined()
})
