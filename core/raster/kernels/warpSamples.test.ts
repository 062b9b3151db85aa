import { createPicture, toInterleaved16, type Picture } from '../plane'
import { apply, IDENTITY, type Similarity } from '../similarity'
import { bendAt, createBend, type Bend } from '../bend'
import { warpPicture } from '../warp'
import { FrameWarper, heldFor, warpPart, WasmKernels, Workspace, type Slab } from '.'

const [WIDTH, HEIGHT] = [90, 60]

/** Soft waves in three colours. */
function waves(): Picture {
  const picture = createPicture(WIDTH, HEIGHT)
  picture.planes.forEach(({ data }, c) => {
    for (let i = 0; i < data.length; i++) data[i] = 0.5 + 0.3 * Math.sin((i % WIDTH) * (0.21 + 0.05 * c)) * Math.cos(Math.floor(i / WIDTH) * 0.17)
  })
  return picture
}

/** Three planes of 0 … 1, as the kernel warps them. */
function warped(picture: Picture, motion: Similarity, gain = 1, bend?: Bend): number[][] {
  const kernels = new WasmKernels()
  const space = new Workspace(kernels, WIDTH)
  const samples = toInterleaved16(picture)
  const warper = new FrameWarper(space, WIDTH, HEIGHT)
  const scratch = space.bytes(samples.byteLength + 64)
  const planes = [0, 1, 2].map(() => space.plane(WIDTH, HEIGHT, 2)) as [Slab, Slab, Slab]
  warper.warp(warper.put(samples, scratch), { motion, gain, bend }, scratch, planes)
  const [{ stride }] = planes
  return planes.map((plane) => {
    const values = new Uint16Array(kernels.buffer(), plane.at, stride * HEIGHT)
    return Array.from({ length: WIDTH * HEIGHT }, (_, i) => values[Math.floor(i / WIDTH) * stride + (i % WIDTH)] / 65535)
  })
}

test.each<[string, Similarity]>([
  ['nothing', IDENTITY],
  ['a shift by parts of a pixel', { ...IDENTITY, dx_px: 2.37, dy_px: -1.61 }],
  ['breathing', { ...IDENTITY, scale: 1.08 }],
  ['a turn of half a degree', { ...IDENTITY, rotation_rad: 0.0087, dx_px: 0.4 }],
])('%s: columns before rows come to what both at once do, three thousandths at the most', (_, motion) => {
  const exact = warpPicture(waves(), motion).planes
  warped(waves(), motion).forEach((plane, c) => plane.forEach((value, i) => expect(Math.abs(value - exact[c].data[i])).toBeLessThan(0.003)))
})

test('gain is a factor, and beyond the frame its edge is repeated', () => {
  const [once, twice] = [warped(waves(), IDENTITY), warped(waves(), IDENTITY, 1.2)]
  once[1].forEach((value, i) => expect(twice[1][i]).toBeCloseTo(1.2 * value, 4))
  const [far] = warped(waves(), { ...IDENTITY, dx_px: 500 })
  for (let y = 0; y < HEIGHT; y++) expect(far[y * WIDTH]).toBeCloseTo(once[0][y * WIDTH + WIDTH - 1], 4)
})

test('what a frame does not hold is clipped, not wrapped', () => {
  const [red] = warped(waves(), IDENTITY, 3)
  expect(Math.max(...red)).toBe(1)
})

test('a bend moves each place by what its net says there, in the turned and scaled frame', () => {
  const bend = createBend(4, 3, WIDTH, HEIGHT)
  bend.x_px.forEach((_, k, all) => (all[k] = 0.6 * Math.sin(k)))
  bend.y_px.forEach((_, k, all) => (all[k] = 0.6 * Math.cos(2 * k)))
  const motion = { scale: 1.02, rotation_rad: 0.0087, dx_px: 3.4, dy_px: -2.2 }
  const wave = ([x, y]: [number, number]) => 0.5 + 0.3 * Math.sin(x * 0.21) * Math.cos(y * 0.17)
  const [cx, cy] = [(WIDTH - 1) / 2, (HEIGHT - 1) / 2]
  const [red] = warped(waves(), motion, 1, bend)
  const [straight] = warped(waves(), motion)
  let changed = 0
  for (let y = 8; y < HEIGHT - 8; y++) {
    for (let x = 8; x < WIDTH - 8; x++) {
      const [dx, dy] = bendAt(bend, x, y)
      const [qx, qy] = apply(motion, x + dx - cx, y + dy - cy)
      // The net is read between every sixteenth row, and down the columns in groups of eight.
      expect(Math.abs(red[y * WIDTH + x] - wave([qx + cx, qy + cy]))).toBeLessThan(0.008)
      changed = Math.max(changed, Math.abs(red[y * WIDTH + x] - straight[y * WIDTH + x]))
    }
  }
  expect(changed).toBeGreaterThan(0.02)
})

test.each([
  ['within', { x: 20, y: 11, width: 31, height: 23 }],
  ['at a corner', { x: 0, y: 0, width: 17, height: 40 }],
  ['at the far edges', { x: 60, y: 40, width: 30, height: 20 }],
])('a rectangle of a frame, %s, is what the whole frame shows there', (_, part) => {
  const picture = waves()
  const motion = { scale: 1.03, rotation_rad: 0.01, dx_px: 2.4, dy_px: -3.7 }
  const bend = createBend(4, 3, WIDTH, HEIGHT)
  bend.x_px.forEach((_, k) => ((bend.x_px[k] = Math.sin(k)), (bend.y_px[k] = Math.cos(2 * k))))
  const whole = warped(picture, motion, 0.9, bend)
  const cut = warpPart(new WasmKernels(), toInterleaved16(picture), { width: WIDTH, height: HEIGHT }, { motion, bend, gain: 0.9 }, part)
  let worst = 0
  for (let y = 0; y < part.height; y++) {
    for (let x = 0; x < part.width; x++) {
      whole.forEach((plane, c) => {
        const there = cut[3 * (y * part.width + x) + c] / 65535
        worst = Math.max(worst, Math.abs(there - plane[(part.y + y) * WIDTH + part.x + x]))
      })
    }
  }
  expect(worst).toBeLessThan(0.002)
})

test('of a frame only what is held for a rectangle is needed, for the very same samples', () => {
  const [width, height] = [400, 300]
  const samples = Uint8Array.from({ length: 3 * width * height }, (_, i) => (i * i * 31) % 251)
  // Breathing that moves the corners of a large rectangle by more than what is read around it.
  const laying = { motion: { scale: 1.2, rotation_rad: 0.02, dx_px: -7.3, dy_px: 4.1 }, gain: 0.9 }
  const rectangle = { x: 30, y: 20, width: 330, height: 250 }
  const held = heldFor(laying.motion, rectangle, { width, height })
  const inside = (at: number, most: number) => Math.min(most - 1, Math.max(0, at))
  const part = new Uint8Array(3 * held.width * held.height)
  for (let y = 0, o = 0; y < held.height; y++)
    for (let x = 0; x < held.width; x++, o += 3) {
      const from = 3 * (inside(held.y + y, height) * width + inside(held.x + x, width))
      part.set(samples.subarray(from, from + 3), o)
    }
  const kernels = new WasmKernels()
  for (const piece of [
    { x: 30, y: 20, width: 64, height: 50 },
    { x: 300, y: 210, width: 60, height: 60 },
  ]) {
    const whole = warpPart(kernels, samples, { width, height }, laying, piece)
    expect(warpPart(kernels, part, { width, height }, laying, piece, held)).toEqual(whole)
  }
})
