import { createPicture } from '../raster'
import { FAULT_WORDS, shotsOf, strike, usualFaults, type Fault } from './faults'
import { randomStream } from './random'
import { SimulatedSeries } from './series'

const positions = [0, 1, 2, 3, 4, 5]
const shots = (...faults: Fault[]) => shotsOf(positions, faults, 1000, randomStream(1))
const places = (...faults: Fault[]) => shots(...faults).map(({ position_mm }) => position_mm)

test('without faults the plan is shot as it is', () => expect(places()).toEqual(positions))

test.each<[Fault, number[]]>([
  [{ kind: 'skippedStep', frame: 4 }, [0, 1, 2, 4, 5, 6]],
  [{ kind: 'repeatedStep', frame: 4 }, [0, 1, 2, 2, 3, 4]],
  [{ kind: 'startShort', frames: 2 }, [2, 3, 4, 5]],
  [{ kind: 'endShort', frames: 2 }, [0, 1, 2, 3]],
  [{ kind: 'runsOn', frames: 2 }, [0, 1, 2, 3, 4, 5, 6, 7]],
  [{ kind: 'divider', frame: 3 }, [0, 1, 2, 2, 3, 4, 5]],
])('%j moves the focus', (fault, expected) => expect(places(fault)).toEqual(expected))

test('a bump lasts, and is marked where it happens', () => {
  const bumped = shots({ kind: 'bump', frame: 3, shift_percent: 2 })
  expect(bumped.map(({ dx_px }) => dx_px)).toEqual([0, 0, 16, 16, 16, 16])
  expect(bumped.map(({ faults }) => faults)).toEqual([[], [], ['bump'], [], [], []])
})

test('single frames are struck by themselves', () => {
  const struck = shots(
    { kind: 'noFlash', frame: 2, stops: 2 },
    { kind: 'whiteBalance', frame: 5, red_ev: 1, blue_ev: 0 },
    { kind: 'shake', frame: 6, length_px: 4 },
  )
  expect(struck[1].exposure).toBe(0.25)
  expect(struck[4].tint).toEqual([2, 1, 1])
  expect(struck[5].shake_px).toBe(4)
  expect(struck[0]).toMatchObject({ exposure: 1, shake_px: 0, faults: [] })
})

test('usual faults lie inside the run, never at its ends', () => {
  for (let seed = 0; seed < 50; seed++) {
    const faults = usualFaults(Object.keys(FAULT_WORDS) as Fault['kind'][], 12, randomStream(seed))
    expect(faults).toHaveLength(Object.keys(FAULT_WORDS).length)
    for (const fault of faults) if ('frame' in fault) expect(fault.frame > 2 && fault.frame < 12).toBe(true)
  }
})

test('a smear keeps the light and spreads it; dust darkens; a hand hides', () => {
  const light = createPicture(40, 30)
  light.planes.forEach(({ data }) => (data[15 * 40 + 20] = 1))
  const [shot] = shots()
  strike(light, { ...shot, shake_px: 6 }, [])
  const [{ data }] = light.planes
  expect(data.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 5)
  expect(Math.max(...data)).toBeLessThan(0.4)
  light.planes.forEach((plane) => plane.data.fill(1))
  strike(light, shot, [{ x: 0.5, y: 0.5, radius: 0.05 }])
  expect(data[15 * 40 + 20]).toBeLessThan(0.6)
  expect(data[0]).toBe(1)
  strike(light, { ...shot, hand: true }, [])
  expect(Math.max(...data)).toBeLessThan(0.5)
})

describe('a series with faults', () => {
  const series = (faults: Fault[]) =>
    new SimulatedSeries({
      scene: 'bristles',
      seed: 2,
      camera: { sensorWidth_mm: 36, width_px: 120, height_px: 80, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'ring' },
      positions_mm: [0, 1, 2, 3],
      unsteadiness: { shift_px: 0, rotation_deg: 0, exposure_ev: 0 },
      fullWell: 30_000,
      faults,
    })
  const mean = (data: Float32Array) => data.reduce((a, b) => a + b, 0) / data.length

  test('is as long as what is really taken, and says of each frame what struck it', () => {
    const run = series([
      { kind: 'divider', frame: 2 },
      { kind: 'noFlash', frame: 3, stops: 2 },
      { kind: 'runsOn', frames: 1 },
    ])
    expect(run.count).toBe(6)
    const shot = [0, 1, 3, 5].map((k) => run.shoot(k))
    expect(shot.map(({ faults }) => faults)).toEqual([[], ['divider'], ['noFlash'], ['runsOn']])
    expect(shot[3].position_mm).toBe(4)
    expect(shot[2].exposure).toBeCloseTo(0.25, 9)
    expect(mean(shot[2].picture.planes[1].data)).toBeLessThan(0.7 * mean(shot[0].picture.planes[1].data))
  })

  test('a bump moves the picture and is part of the motion', () => {
    const run = series([{ kind: 'bump', frame: 3, shift_percent: 5 }])
    expect(run.shoot(0).motion.dx_px).toBeCloseTo(0, 9)
    expect(run.shoot(3).motion.dx_px).toBeCloseTo(4.8, 9)
    expect(run.shoot(3).motion.dy_px).toBeCloseTo(3.6, 9)
  })

  test('a tint changes one colour against another', () => {
    const [plain, tinted] = [series([]), series([{ kind: 'whiteBalance', frame: 2, red_ev: 0.5, blue_ev: -0.5 }])].map(
      (run) => run.shoot(1).picture.planes,
    )
    expect(mean(tinted[0].data)).toBeGreaterThan(1.1 * mean(plain[0].data))
    expect(mean(tinted[2].data)).toBeLessThan(0.9 * mean(plain[2].data))
    expect(mean(tinted[1].data)).toBeCloseTo(mean(plain[1].data), 3)
  })
})
