import { DustFinder, type Speck } from '@/core/dust'
import { luma, type Similarity } from '@/core/raster'
import { randomStream, SimulatedSeries, specksOf, type Fault } from '@/core/simulate'
import { dustSeries, HEIGHT_px, SPECKS, WIDTH_px } from './dustSeries'

/**
 * How well dust on the sensor is found: simulated series of every kind, each once clean and once with four specks, at random
 * seeds. `npm run bench:dust -- 40` prints how many specks were found, and what was taken for dust and is none.
 */
const [runs = '40', first = '1'] = process.argv.slice(2)

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
  const shoot = (faults: Fault[]) => new SimulatedSeries(dustSeries(run, faults))
  const { scene, camera, positions_mm, seed } = dustSeries(run, [])
  const real = specksOf(SPECKS, randomStream(seed + 99))
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
    `run ${run} ${scene}, ${positions_mm.length} frames, ${camera.mover}: ${found} of ${SPECKS}; wrong ${dusty.length - found}, in the clean run ${clean.length}`,
  )
}
console.log(
  `found ${tally.found} of ${tally.specks} specks, ${tally.wrong} that are none; something taken for dust in ${tally.cleanRunsWithSome} of ${tally.runs} clean runs`,
)
