import { SimulatedSeries, type Fault } from '../simulate'
import { orderedByScale } from './byScale'
import { frameFacts, type FrameFacts } from './frameFacts'
import { Pairs } from './pairs'
import { Survey } from '.'

/** Four slices of a garden whose water runs and leaves sway: hill, second wall, first wall, trough. */
const positions_mm = [2560, 783, 302, 77]

function garden(faults: Fault[] = []) {
  return new SimulatedSeries({
    scene: 'garden',
    seed: 1,
    camera: { sensorWidth_mm: 36, width_px: 480, height_px: 320, focalLength_mm: 24, fNumber: 8, magnification: 0.0183, mover: 'ring' },
    positions_mm,
    unsteadiness: { shift_px: 0.5, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults,
  })
}

const picturesOf = (series: SimulatedSeries) => Array.from({ length: series.count }, (_, k) => series.shoot(k).picture)

describe('a run of few frames in which things move', () => {
  let facts: FrameFacts[]
  let doubled: ReturnType<typeof picturesOf>
  beforeAll(() => {
    facts = picturesOf(garden()).map(frameFacts)
    doubled = picturesOf(garden([{ kind: 'repeatedStep', frame: 3 }]))
  })

  test.each([[[0, 1, 2, 3]], [[3, 2, 0, 1]], [[1, 3, 0, 2]]])('is put in order by scale, whatever path was found: %j', (path) => {
    const order = orderedByScale(path, facts, new Pairs())
    expect(order[0] < order[3] ? order : order.toReversed()).toEqual([0, 1, 2, 3])
  })

  test('is put in order whatever its names', () => {
    const shuffled = [2, 0, 3, 1]
    const order = orderedByScale(
      [0, 1, 2, 3],
      shuffled.map((k) => facts[k]),
      new Pairs(),
    ).map((place) => shuffled[place])
    expect(order[0] < order[3] ? order : order.toReversed()).toEqual([0, 1, 2, 3])
  })

  test('names its doubled frame, and keeps the order in which the two were taken', () => {
    const survey = new Survey('ring')
    doubled.forEach((picture, k) => survey.add(`f_${k + 1}.jpg`, picture))
    const { order, frames } = survey.finish()
    expect(order).toBe('far-to-near')
    expect(frames.map(({ file }) => file)).toEqual(['f_4.jpg', 'f_3.jpg', 'f_2.jpg', 'f_1.jpg'])
    expect(frames.map(({ role }) => role)).toEqual(['use', 'use', 'idle', 'use'])
  })

  test('is left as it was found where the scale does not change, or in two frames', () => {
    const still = [facts[0], { ...facts[0] }, { ...facts[0] }]
    expect(orderedByScale([2, 0, 1], still, new Pairs())).toEqual([2, 0, 1])
    expect(orderedByScale([1, 0], facts.slice(0, 2), new Pairs())).toEqual([1, 0])
  })

  test('is left as it was found where a frame cannot be registered', () => {
    const { luma } = facts[1]
    // A picture of something else altogether.
    const other = { ...facts[1], luma: { ...luma, data: luma.data.map((_, i) => ((i * 7919) % 997) / 997) } }
    expect(orderedByScale([0, 2, 1], [facts[0], other, facts[2]], new Pairs())).toEqual([0, 2, 1])
  })
})
