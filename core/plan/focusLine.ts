import type { Plan, PlannedFrame } from './reply'

/**
 * The plan as a line along which focus moves: slices lie evenly on it. For a depth it is the distance from the near
 * edge in mm; for a range one over the distance in 1/mm, in which depth of field is the same everywhere.
 */
export class FocusLine {
  /** Places of the planned frames, in shooting order. */
  readonly places: number[]
  /** Longest step that leaves no gap, and the way it is gone: 1 or −1. */
  readonly stride: number
  readonly direction: number
  private readonly byPlace: PlannedFrame[]

  constructor(
    plan: Plan,
    readonly order: PlannedFrame[],
  ) {
    this.inverse = plan.hyperfocal_mm !== undefined
    this.places = order.map((frame) => this.placeOf(this.positionOf(frame)))
    const steps = this.places.slice(1).map((place, k) => Math.abs(place - this.places[k]))
    this.stride = steps.length > 0 ? Math.max(...steps) : Math.abs(this.width(order[0]))
    this.direction = this.places.length > 1 ? Math.sign(this.places[this.places.length - 1] - this.places[0]) || 1 : 1
    this.byPlace = [...order].sort((a, b) => this.placeOf(this.positionOf(a)) - this.placeOf(this.positionOf(b)))
  }

  private readonly inverse: boolean

  /** Position in mm, from the near edge or from the lens, as a place on the line; and back. */
  placeOf(position_mm: number): number {
    return this.inverse ? 1 / position_mm : position_mm
  }

  positionOf({ position_mm, focusDistance_mm }: PlannedFrame): number {
    return this.inverse ? focusDistance_mm! : position_mm!
  }

  /** The frame that would be taken at a place: what the planned ones on both sides say, in between, by the number of the nearest one. */
  frameAt(place: number): PlannedFrame {
    const frames = this.byPlace
    if (frames.length === 1) return frames[0]
    const at = (k: number) => this.placeOf(this.positionOf(frames[k]))
    let k = 0
    while (k < frames.length - 2 && at(k + 1) < place) k++
    const t = (place - at(k)) / (at(k + 1) - at(k))
    const between = (field: keyof PlannedFrame) => {
      const [a, b] = [frames[k][field], frames[k + 1][field]]
      return a === undefined || b === undefined ? undefined : this.between(a, b, t)
    }
    return {
      index: frames[t < 0.5 ? k : k + 1].index,
      near_mm: between('near_mm')!,
      far_mm: between('far_mm')!,
      position_mm: between('position_mm'),
      travel_mm: between('travel_mm'),
      focusDistance_mm: between('focusDistance_mm'),
      scaleDistance_mm: between('scaleDistance_mm'),
    }
  }

  private between(a: number, b: number, t: number): number {
    if (!this.inverse) return a + t * (b - a)
    const inverse = 1 / a + t * (1 / b - 1 / a)
    return inverse <= 0 ? Infinity : 1 / inverse
  }

  private width({ near_mm, far_mm }: PlannedFrame): number {
    return this.inverse ? 1 / near_mm - 1 / far_mm : far_mm - near_mm
  }
}
