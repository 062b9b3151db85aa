import { createPicture } from '../raster'
import type { Fault } from '../simulate'
import type { PictureOrder } from './darkroom'
import { fineContrast } from './contrast'
import { FocusDrive } from './focusDrive'
import { Play } from './play'
import { StandIns, type StandInSetup } from './standIns'
import { SceneDarkroom } from './darkroom'

const setup: StandInSetup = {
  scene: 'fossil',
  seed: 2,
  camera: { sensorWidth_mm: 36, width_px: 120, height_px: 80, focalLength_mm: 100, fNumber: 8, magnification: 1, mover: 'rail' },
  positions_mm: [0, 1, 2, 3, 4],
  settings: { fNumber: 8, shutter_s: 0.1, iso: 100, sensorShift: false },
  batteryFrames: 10,
  cardFrames: 6,
  backlash_mm: 0.2,
  faults: [],
}

/** Stand-ins whose pictures are not drawn: what was ordered is kept instead. */
function stand(change: Partial<StandInSetup> = {}) {
  const orders: PictureOrder[] = []
  let now_s = 0
  const devices = new StandIns(
    { ...setup, ...change },
    async (order) => {
      orders.push(order)
      return createPicture(4, 4)
    },
    () => now_s,
  )
  return { devices, orders, wait: (seconds: number) => (now_s += seconds) }
}

test('the rail carries the plane of focus, and its play keeps it behind when the way turns', async () => {
  const { devices } = stand()
  await devices.rail!.moveTo(3)
  expect(devices.focus_mm).toBeCloseTo(3, 9)
  await devices.rail!.moveTo(2)
  expect((await devices.rail!.state()).position_mm).toBe(2)
  expect(devices.focus_mm).toBeCloseTo(2.2, 9)
  await devices.rail!.moveTo(3)
  expect(devices.focus_mm).toBeCloseTo(3, 9)
})

test('play never exceeds what the screw has', () => {
  const play = new Play(0.3)
  for (const to of [1, 0.9, 0.95, -2, 4, 3.8, 3.9, 0]) {
    play.moveTo(to)
    expect(play.carriage_mm - play.reading_mm).toBeGreaterThanOrEqual(-1e-9)
    expect(play.carriage_mm - play.reading_mm).toBeLessThanOrEqual(0.3 + 1e-9)
  }
})

test('the focus drive moves in steps that mean more the farther away it is focused, up to far away', () => {
  const camera = { ...setup.camera, mover: 'ring' as const, focalLength_mm: 24, magnification: 0.02 }
  const drive = new FocusDrive(camera, 500, 0)
  const steps: number[] = []
  for (let k = 0, last = drive.focus_mm; k < 6; k++, last = drive.focus_mm) {
    drive.move(1)
    steps.push(drive.focus_mm - last)
  }
  for (const [k, step] of steps.slice(1).entries()) expect(step).toBeGreaterThan(steps[k])
  drive.move(drive.stepsTo(400))
  expect(Math.abs(drive.focus_mm - 400)).toBeLessThan(steps[5] * 3)
  drive.move(10_000)
  expect(Number.isFinite(drive.focus_mm)).toBe(true)
})

test('battery and card run down, and the refusal says what to do', async () => {
  const { devices } = stand()
  for (let k = 0; k < 6; k++) await devices.remote.press()
  expect(await devices.camera.state()).toMatchObject({ battery_percent: 40, cardFrames: 0, exposed: 6 })
  await expect(devices.remote.press()).rejects.toMatchObject({ code: 'device.card' })
  await devices.camera.supply('card')
  await devices.camera.set({ sensorShift: true })
  await devices.remote.press()
  await expect(devices.remote.press()).rejects.toMatchObject({ code: 'device.battery' })
  await devices.camera.supply('battery')
  await devices.remote.press()
})

test('exposure follows shutter, ISO and aperture; by flash the shutter does not count, and an uncharged flash is dark', async () => {
  const lamp = stand()
  await lamp.devices.camera.set({ shutter_s: 0.2, iso: 200, fNumber: 16 })
  await lamp.devices.remote.press()
  expect(Math.log2(lamp.orders[0].taking.exposure)).toBeCloseTo(0, 0)
  expect(lamp.orders[0].setup.fNumber).toBe(16)
  const flash = stand({ recycling_s: 4 })
  await flash.devices.camera.set({ shutter_s: 0.4 })
  await flash.devices.remote.press()
  expect((await flash.devices.flash!.state()).recycling_s).toBe(4)
  await flash.devices.remote.press()
  flash.wait(5)
  await flash.devices.remote.press()
  const stops = flash.orders.map(({ taking }) => Math.log2(taking.exposure))
  expect(stops[0]).toBeCloseTo(0, 0)
  expect(stops[1]).toBeLessThan(-2)
  expect(stops[2]).toBeCloseTo(0, 0)
})

describe('what goes wrong', () => {
  const run = async (fault: Fault, change: Partial<StandInSetup> = {}) => {
    const { devices, orders } = stand({ faults: [fault], ...change })
    for (const position of setup.positions_mm) {
      await devices.rail!.moveTo(position)
      await devices.remote.press()
    }
    return orders
  }
  const focus = (orders: PictureOrder[]) => orders.map(({ view }) => view.focusZ)

  test.each<[Fault, number[]]>([
    [{ kind: 'skippedStep', frame: 3 }, [0, 1, 3, 4, 5]],
    [{ kind: 'repeatedStep', frame: 3 }, [0, 1, 1, 2, 3]],
    [{ kind: 'startShort', frames: 2 }, [2, 3, 4, 5, 6]],
  ])('%j moves the plane of focus and not the reading', async (fault, expected) => {
    expect(focus(await run(fault))).toEqual(expected.map((place) => expect.closeTo(place, 9)))
  })

  test('a bump lasts, a shaken or tinted frame is one frame', async () => {
    const bumped = await run({ kind: 'bump', frame: 4, shift_percent: 10 })
    expect(bumped.map(({ view }) => Math.hypot(view.jitter.dx_px, view.jitter.dy_px) > 8)).toEqual([false, false, false, true, true])
    const shaken = await run({ kind: 'shake', frame: 2, length_px: 9 })
    expect(shaken.map(({ taking }) => taking.strike.shake_px)).toEqual([0, 9, 0, 0, 0])
    const handed = await run({ kind: 'divider', frame: 3 })
    expect(handed.map(({ taking }) => taking.strike.hand)).toEqual([false, false, true, false, false])
    const tinted = await run({ kind: 'whiteBalance', frame: 5, red_ev: 1, blue_ev: 0 })
    expect(tinted.map(({ taking }) => taking.strike.tint[0])).toEqual([1, 1, 1, 1, 2])
  })

  test('a battery that ends too soon refuses the frame', async () => {
    await expect(run({ kind: 'endShort', frames: 2 })).rejects.toMatchObject({ code: 'device.battery' })
  })

  test('dust lies on every frame at the same places', async () => {
    const orders = await run({ kind: 'dust', specks: 3 })
    expect(orders[0].taking.dust).toHaveLength(3)
    expect(orders[4].taking.dust).toEqual(orders[0].taking.dust)
  })
})

test('live view measures more contrast where the spot is in focus, and the magnifier shows the frame’s own pixels', async () => {
  const darkroom = new SceneDarkroom('fossil', 2)
  const devices = new StandIns({ ...setup, camera: { ...setup.camera, width_px: 600, height_px: 400, fNumber: 2.8 } }, async (order) =>
    darkroom.take(order),
  )
  const look = { spot: { x: 0.45, y: 0.5 }, magnifier: false }
  const seen: number[] = []
  for (const place of [-8, 2, 6, 8, 9, 24]) {
    await devices.rail!.moveTo(place)
    seen.push((await devices.camera.liveView(look)).contrast)
  }
  expect(Math.max(...seen.slice(1, 5))).toBeGreaterThan(1.5 * Math.max(seen[0], seen[5]))
  const { picture } = await devices.camera.liveView({ ...look, magnifier: true })
  expect([picture.width, picture.height]).toEqual([270, 180])
})

test('a scene made ready bit by bit gives the same picture, and is not forgotten for what live view looks at', async () => {
  const small = { ...setup, camera: { ...setup.camera, width_px: 360, height_px: 240 } }
  const [ready, other] = [new SceneDarkroom('fossil', 2), new SceneDarkroom('fossil', 2)]
  const devices = new StandIns(small, async (order) => ready.take(order))
  let bits = 0
  while (ready.prepare(devices.prospect)) bits++
  expect(bits).toBeGreaterThan(5)
  for (const x of [0.1, 0.4, 0.6, 0.9]) await devices.camera.liveView({ spot: { x, y: 0.5 }, magnifier: true })
  expect(ready.prepare(devices.prospect)).toBe(false)
  const orders: PictureOrder[] = []
  await new StandIns(small, async (order) => {
    orders.push(order)
    return createPicture(1, 1)
  }).remote.press()
  // Begun and not finished: the rest is done when the picture is wanted.
  other.prepare(devices.prospect)
  expect(other.take(orders[0]).planes[1].data).toEqual(ready.take(orders[0]).planes[1].data)
})

test('a scene made ready serves all apertures but those wide open', () => {
  const darkroom = new SceneDarkroom('wing', 2)
  const camera = { ...setup.camera, width_px: 360, height_px: 240 }
  const prospect = (fNumber: number, width_px = 360) => ({ setup: { ...camera, fNumber, width_px, height_px: (width_px * 2) / 3 }, reference_mm: 3 })
  while (darkroom.prepare(prospect(8)));
  for (const fNumber of [22, 5.6, 2.8]) expect(darkroom.prepare(prospect(fNumber))).toBe(false)
  // Wider open, light comes from behind what hides at other apertures; and another size is another scene to sample.
  expect(darkroom.prepare(prospect(1.4))).toBe(true)
  expect(darkroom.prepare(prospect(8, 480))).toBe(true)
})

test('an even picture has no contrast, a chequered one much', () => {
  const picture = createPicture(20, 20)
  picture.planes[0].data.fill(0.5)
  const whole = { x: 0, y: 0, width: 1, height: 1 }
  expect(fineContrast(picture.planes[0], whole)).toBe(0)
  picture.planes[0].data.forEach((_, i, data) => (data[i] = (i + Math.floor(i / 20)) % 2))
  expect(fineContrast(picture.planes[0], whole)).toBeGreaterThan(100)
})
