import { DustFinder, type Speck } from '@/core/dust'
import { luma, type Similarity } from '@/core/raster'
import { randomStream, SimulatedSeries, specksOf, type Fault } from '@/core/simulate'

/**
 * How well dust on the sensor is found: simulated series of every kind, each once clean and once with four specks, at random
 * seeds. `npm run bench:dust -- 40` prints how many specks were found, and what was taken for dust and is none.
 */
const [runs = '40', first = '1'] = process.argv.slice(2)

const WIDTH_px = 640
const HEIGHT_px = 426
const SPECKS = 4
/** Where the near edge lies, from the lens, in scenes that reach far away. */
const NEAR_EDGE_mm = 550
const evenly = (from: number, step: number, count: number) => Array.from({ length: count }, (_, k) => from + k * step)
const toFar = (count: number) => evenly(1 / 540, (1 / 20_000 - 1 / 540) / (count - 1), count).map((inverse) => 1 / inverse - NEAR_EDGE_mm)

const close = { focalLength_mm: 100, fNumber: 5.6 }
const SCENES = [
  { ...close, scene: 'fossil', magnification: 1, positions_mm: evenly(-1, 0.85, 14) },
  { ...close, scene: 'nib', magnification: 0.5, positions_mm: evenly(-2, 2.8, 15) },
  { ...close, scene: 'bristles', magnification: 1, positions_mm: evenly(-1, 0.75, 14) },
  { ...close, scene: 'bowl', magnification: 0.5, positions_mm: evenly(-1, 2.2, 12) },
  { scene: 'garden', focalLength_mm: 24, fNumber: 2.8, magnification: 0.025, positions_mm: toFar(9) },
  { scene: 'garden', focalLength_mm: 24, fNumber: 2, magnification: 0.025, positions_mm: toFar(6) },
]

function search(series: SimulatedSeries): Speck[] {
  const finder = new DustFinder()
  const motions: Similarity[] = []
  for (let k = 0; k < series.count; k++) {
    const { picture, motion } = series.shoot(k)
    finder.add(luma(picture))
    motions.push(motion)
  }
  return finder.finish(motions).specks
}

const tally = { found: 0, specks: 0, wrong: 0, cleanRunsWithSome: 0, runs: 0 }
for (let run = Number(first); run <= Number(runs); run++) {
  const setup = SCENES[run % SCENES.length]
  const mover = run % 4 < 2 || setup.scene === 'garden' ? 'ring' : 'rail'
  const shoot = (faults: Fault[]) =>
    new SimulatedSeries({
      scene: setup.scene,
      seed: 4000 + run,
      camera: { sensorWidth_mm: 36, width_px: WIDTH_px, height_px: HEIGHT_px, ...setup, mover },
      positions_mm: setup.positions_mm,
      unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
      fullWell: 30_000,
      faults,
    })
  const real = specksOf(SPECKS, randomStream(4000 + run + 99))
  const isReal = ({ x, y }: Speck) => real.some((speck) => Math.hypot(x - speck.x * WIDTH_px, y - speck.y * HEIGHT_px) < speck.radius * WIDTH_px)
  const dusty = search(shoot([{ kind: 'dust', specks: SPECKS }]))
  const clean = search(shoot([]))
  const found = dusty.filter(isReal).length
  tally.found += found
  tally.specks += SPECKS
  tally.wrong += dusty.length - found
  tally.cleanRunsWithSome += Number(clean.length > 0)
  tally.runs++
  console.log(
    `run ${run} ${setup.scene}, ${setup.positions_mm.length} frames, ${mover}: ${found} of ${SPECKS}; wrong ${dusty.length - found}, in the clean run ${clean.length}`,
  )
}
console.log(
  `found ${tally.found} of ${tally.specks} specks, ${tally.wrong} that are none; something taken for dust in ${tally.cleanRunsWithSome} of ${tally.runs} clean runs`,
)
