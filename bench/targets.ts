import { lightOf, TargetMeasure, type MeasuredTarget } from '@/core/learn/target'
import type { Plane } from '@/core/raster'
import { randomStream, SimulatedSeries, USUAL_SHEET, type CameraSetup, type SheetSetup } from '@/core/simulate'

/**
 * The printed sheet photographed by the simulated camera and measured, against the truth: `npm run bench:targets -- 24`. Tilts of 30 to 60°, turned and
 * rolled by up to 5°, three qualities of print, several apertures, sizes, movers and much noise; and which aperture is the sharpest.
 */
const [count = '24', lenses = '10'] = process.argv.slice(2)
const [SENSOR_mm, FOCAL_mm, FRAMES] = [36, 100, 8]
const [WIDTH, HEIGHT] = [1200, 800]
const PRINTS_mm = [0.02, 0.05, 0.1]

interface Shot {
  sheet: SheetSetup
  camera: CameraSetup
  stride_mm: number
  seed: number
  fullWell: number
}

/** The allowed blur of two px, of a thin lens. */
const sliceOf = ({ fNumber, magnification }: CameraSetup) => (4 * (SENSOR_mm / WIDTH) * fNumber * (1 + magnification)) / magnification ** 2

function measureShot({ sheet, camera, stride_mm, seed, fullWell }: Shot, frames = FRAMES) {
  const depth_mm = 66 * sheet.pitch_mm * Math.sin((sheet.tilt_deg * Math.PI) / 180)
  const positions_mm = Array.from({ length: frames }, (_, k) => depth_mm / 2 + (k - (frames - 1) / 2) * stride_mm)
  const unsteadiness = { shift_px: 0.6, rotation_deg: 0.02, exposure_ev: 0.03 }
  const series = new SimulatedSeries({ scene: 'target', seed, sheet, positions_mm, fullWell, camera, unsteadiness })
  const lights: [string, Plane][] = positions_mm.map((_, k) => [`frame ${k}`, lightOf(series.shoot(k).picture)])
  return { lights, truth: positions_mm.map((at) => at - depth_mm / 2) }
}

function found(lights: [string, Plane][], facts: Parameters<TargetMeasure['finish']>[0]): MeasuredTarget {
  const measure = new TargetMeasure()
  for (const [file, light] of lights) measure.add(file, light)
  return measure.finish(facts)
}

const random = randomStream(11)
const between = (least: number, most: number) => least + (most - least) * random()
let [frames, near, unread, strides, strideNear, ratios, ratioNear, failed] = [0, 0, 0, 0, 0, 0, 0, 0]
console.log('  tilt  turned rolled print f-no. size mover | focus off by at most, slices | stride off | spread | depth of field, found / truth')
for (let k = 0; k < Number(count); k++) {
  const magnification = [0.5, 1, 1, 2][Math.floor(4 * random())]
  const camera: CameraSetup = {
    sensorWidth_mm: SENSOR_mm,
    width_px: WIDTH,
    height_px: HEIGHT,
    focalLength_mm: FOCAL_mm,
    fNumber: [2.8, 4, 5.6, 8][Math.floor(4 * random())],
    magnification,
    mover: random() < 0.5 ? 'rail' : 'ring',
  }
  const pitch_mm = 1 / magnification
  const sheet: SheetSetup = {
    pitch_mm,
    tilt_deg: between(30, 60),
    turned_deg: between(-5, 5),
    rolled_deg: between(-5, 5),
    print_mm: PRINTS_mm[k % 3],
  }
  const slice_mm = sliceOf(camera)
  const stride_mm = between(0.4, 0.8) * slice_mm
  const shot = { sheet, camera, stride_mm, seed: k + 1, fullWell: [2000, 8000, 30_000][Math.floor(3 * random())] }
  const { lights, truth } = measureShot(shot)
  const line = [sheet.tilt_deg, sheet.turned_deg, sheet.rolled_deg].map((deg) => deg.toFixed(1).padStart(6)).join(' ')
  const what = `${line} ${sheet.print_mm.toFixed(2).padStart(5)} ${String(camera.fNumber).padStart(4)} ${String(magnification).padStart(4)} ${camera.mover.padEnd(5)} |`
  try {
    const {
      frames: told,
      stride_mm: stride,
      strideSpread_mm,
      depthOfFieldRatio,
    } = found(lights, { pitch_mm, sensorWidth_mm: SENSOR_mm, fNumber: camera.fNumber })
    const off = told.map(({ focus_mm }, at) => (focus_mm === null ? undefined : (focus_mm - truth[at]) / slice_mm))
    const known = off.filter((each) => each !== undefined)
    frames += off.length
    unread += off.length - known.length
    near += known.filter((each) => Math.abs(each) <= 0.2).length
    if (stride !== null) strides++
    const strideOff = stride === null ? NaN : stride / stride_mm - 1
    if (Math.abs(strideOff) <= 0.02) strideNear++
    if (depthOfFieldRatio !== null) ratios++
    if (depthOfFieldRatio !== null && Math.abs(depthOfFieldRatio - 1) <= 0.1) ratioNear++
    const most = Math.max(...known.map(Math.abs))
    console.log(
      what,
      `${most.toFixed(3)} (${known.length} of ${off.length}) | ${(100 * strideOff).toFixed(2)} % | ${((100 * (strideSpread_mm ?? NaN)) / stride_mm).toFixed(1)} % | ${depthOfFieldRatio?.toFixed(3)}`,
    )
  } catch (error) {
    failed++
    console.log(what, (error as Error).message)
  }
}
const share = (part: number, all: number) => `${part} of ${all}`
console.log(
  `within 0.2 slices: ${share(near, frames - unread)} frames, ${unread} not told; stride within 2 %: ${share(strideNear, strides)}; depth of field within 10 %: ${share(ratioNear, ratios)}; not seen: ${failed}`,
)

/** Blur in focus by the lens's faults and by diffraction, on the sensor. */
const softness = (spherical_mm: number, fNumber: number) => Math.hypot(spherical_mm / fNumber ** 3, 0.42 * 0.00055 * fNumber * 2)
let right = 0
const LENSES = Number(lenses)
/** Pixels of 6 µm: what a lens softens is seen. */
const FINE_mm = 7.2
const APERTURES = [2.8, 4, 5.6, 8, 11, 16]
for (let k = 0; k < LENSES; k++) {
  const spherical_mm = 0.15 * 2 ** between(0, 4)
  const best = APERTURES.reduce((a, b) => (softness(spherical_mm, b) < softness(spherical_mm, a) ? b : a))
  const sheet = { ...USUAL_SHEET, tilt_deg: between(40, 50), pitch_mm: 0.2, print_mm: 0.004 }
  const all: [string, Plane][] = []
  const apertures: Record<string, number> = {}
  for (const fNumber of APERTURES) {
    const camera: CameraSetup = {
      sensorWidth_mm: FINE_mm,
      width_px: WIDTH,
      height_px: HEIGHT,
      focalLength_mm: FOCAL_mm,
      fNumber,
      magnification: 1,
      mover: 'rail',
      spherical_mm,
    }
    for (const [file, light] of measureShot({ sheet, camera, stride_mm: 0.05, seed: 40 + k, fullWell: 20_000 }, 2).lights) {
      all.push([`${file} at ${fNumber}`, light])
      apertures[`${file} at ${fNumber}`] = fNumber
    }
  }
  const { sharpest } = found(all, { pitch_mm: 1, sensorWidth_mm: FINE_mm, apertures })
  if (sharpest === best) right++
  console.log(
    `sharpest at f/${best} by the lens, f/${sharpest} by the sheet; its own blur there ${((1000 * softness(spherical_mm, best) * WIDTH) / FINE_mm / 1000).toFixed(2)} px`,
  )
}
console.log(`the sharpest aperture found: ${right} of ${LENSES}`)
