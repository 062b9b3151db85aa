import type { RawPicture } from '../formats'
import { countAt } from './mosaic'
import { SimulatedSeries, type SeriesRequest, type SimulatedFrame } from './series'

/** Places of the sensor in the order in which it goes round, halves of a pixel to the right and down. */
const ROUND = [[0, 0], [2, 0], [2, 2], [0, 2]] as const // prettier-ignore
const HALF_STEPS = [[0, 0], [1, 0], [1, 1], [0, 1]] as const // prettier-ignore

/** Where the sensor stands for each of so many captures of a frame, in halves of a pixel. */
export function sensorPlaces(captures: number): [number, number][] {
  // Four go round one pixel; sixteen do so from each of four places half a pixel apart; twice as many go round again.
  const steps = captures >= 16 ? HALF_STEPS : HALF_STEPS.slice(0, 1)
  const round = steps.flatMap(([x, y]) => ROUND.map(([u, v]): [number, number] => [u + x, v + y]))
  return Array.from({ length: captures }, (_, k) => round[k % round.length])
}

/** A series of which each frame is captured several times, the sensor shifted by parts of a pixel in between. */
export class CaptureSeries {
  private readonly fine: SimulatedSeries
  private readonly places: [number, number][]

  constructor({ captures, ...request }: SeriesRequest & { captures: number }) {
    this.places = sensorPlaces(captures)
    this.fine = new SimulatedSeries(inHalves(request))
  }

  get count(): number {
    return this.fine.count
  }

  get reference(): number {
    return this.fine.reference
  }

  /** The captures of frame `index`, and the picture twice as fine as the sensor. */
  shoot(index: number): Omit<SimulatedFrame, 'raw'> & { captures: RawPicture[] } {
    const { light, sensor, noise, ...frame } = this.fine.expose(index, 2)
    return { ...frame, captures: this.places.map((place, k) => countAt(light, place, sensor, noise + 15_485_863 * k)) }
  }

  /** The reference frame's view with everything sharp, twice as fine as the sensor. */
  truth(): ReturnType<SimulatedSeries['truth']> {
    return this.fine.truth()
  }
}

/** The same in a picture of half pixels. */
function inHalves({ camera, unsteadiness, files: _, ...request }: SeriesRequest): SeriesRequest {
  return {
    ...request,
    camera: { ...camera, width_px: 2 * camera.width_px, height_px: 2 * camera.height_px },
    unsteadiness: { ...unsteadiness, shift_px: 2 * unsteadiness.shift_px },
  }
}
