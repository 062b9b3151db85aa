import { apply } from '@/core/raster'
import { placementOf, placementOfRender } from './placement'

const WIDTH = 1200
const HEIGHT = 800
const crop = { x: 30, y: 20, width: 1100, height: 740 }

test('a point of the frame is shown where the registration says the reference has it', () => {
  const frame = { file: 'f.jpg', scale: 1.03, rotation_deg: 0.7, dx_px: 4.5, dy_px: -3.2, gain_ev: 0, share_percent: 0 }
  const { x, y, width, degrees } = placementOf({ frames: [frame], crop }, 0, WIDTH, HEIGHT)
  const motion = { scale: frame.scale, rotation_rad: (frame.rotation_deg * Math.PI) / 180, dx_px: frame.dx_px, dy_px: frame.dy_px }
  for (const [px, py] of [
    [0, 0],
    [-500, 300],
    [420, -280],
  ]) {
    const [qx, qy] = apply(motion, px, py)
    // The viewer: scale the frame to its width, turn it about its middle, move it.
    const unit = (width * crop.width) / WIDTH
    const turn = (degrees * Math.PI) / 180
    const middleX = x * crop.width + (WIDTH * unit) / 2
    const middleY = y * crop.width + (HEIGHT * unit) / 2
    const shownX = middleX + unit * (Math.cos(turn) * qx - Math.sin(turn) * qy)
    const shownY = middleY + unit * (Math.sin(turn) * qx + Math.cos(turn) * qy)
    expect(shownX).toBeCloseTo(WIDTH / 2 + px - crop.x, 6)
    expect(shownY).toBeCloseTo(HEIGHT / 2 + py - crop.y, 6)
  }
})

describe('another render', () => {
  const frame = { scale: 1, rotation_deg: 0, dx_px: 0, dy_px: 0, gain_ev: 0, share_percent: 50 }
  const size = { width: WIDTH, height: HEIGHT }

  test('framed by the same frame lies where its cut does', () => {
    const report = { frames: [{ ...frame, file: 'a.jpg' }], crop }
    const { x, y, width, degrees } = placementOfRender(report, { reference: 'a.jpg', crop: { x: 85, y: 20, width: 550, height: 370 } }, size)!
    expect([x, y, width, degrees].map((value) => Math.abs(Number(value.toFixed(9))))).toEqual([0.05, 0, 0.5, 0])
  })

  test('framed by a frame that moved, uncut, lies where that frame does', () => {
    const moved = { ...frame, file: 'b.jpg', scale: 1.03, rotation_deg: 0.7, dx_px: 4.5, dy_px: -3.2 }
    const report = { frames: [{ ...frame, file: 'a.jpg' }, moved], crop }
    const whole = { x: 0, y: 0, ...size }
    const placed = placementOfRender(report, { reference: 'b.jpg', crop: whole }, size)!
    const own = placementOf(report, 1, WIDTH, HEIGHT)
    for (const key of ['x', 'y', 'width', 'degrees'] as const) expect(placed[key]).toBeCloseTo(own[key], 9)
  })

  test('of other frames has no place here', () =>
    expect(placementOfRender({ frames: [{ ...frame, file: 'a.jpg' }], crop }, { reference: 'z.jpg', crop }, size)).toBeUndefined())
})
