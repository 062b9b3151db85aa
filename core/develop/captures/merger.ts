import type { Interleaved } from '../../raster'
import type { Lattice } from './lattice'
import { filtersOf, GREEN, type Filters } from './mosaic'
import { Disagreement } from './disagreement'

/** Light may differ by so much between captures: lamps flicker. */
const MOST_GAIN = 1.25

/** A set merged: interleaved light of 16 bits, and what part of the picture, 0 … 1, moved between captures. */
export interface Merging {
  width: number
  height: number
  samples: Uint16Array
  moved: number
}

/**
 * Merges the captures of one set, whose sensor stood on a lattice: every pixel of the result has each colour as it was counted behind that
 * filter, and nothing is interpolated. Where several captures saw one place, their mean counts. One capture at a time is held.
 */
export class CaptureMerger {
  private readonly merged: Omit<Merging, 'moved'>
  /** How often each colour was seen: by channel and by the place's class among those that repeat. */
  private readonly seen: Uint16Array
  private readonly period: number
  private readonly disagreement: Disagreement
  private filters: Filters | undefined
  private green: number | undefined
  private taken = 0

  constructor(
    private readonly lattice: Lattice,
    width: number,
    height: number,
  ) {
    const { finer } = lattice
    this.period = 2 * finer
    this.merged = { width: width * finer, height: height * finer, samples: new Uint16Array(3 * width * height * finer * finer) }
    this.seen = new Uint16Array(3 * this.period ** 2)
    this.disagreement = new Disagreement(this.merged.width, this.merged.height, finer)
  }

  /** Takes the next capture: its mosaic spread over three channels. Answers false where it is no mosaic of two by two. */
  add(capture: Interleaved): boolean {
    this.filters ??= filtersOf(capture)
    if (!this.filters) return false
    if (this.taken === 0) this.disagreement.begin(capture, this.filters)
    const place = this.lattice.places[this.taken++]
    const gain = this.gainOf(capture)
    for (let phase = 0; phase < 4; phase++) this.lay(capture, phase, this.filters[phase], place, gain)
    return true
  }

  /** What came of it: the merged light, and how much of the picture moved between captures. */
  finish(): Merging {
    this.fillBorder()
    return { ...this.merged, moved: this.disagreement.moved(this.merged) }
  }

  /** Lays the pixels of one phase of the mosaic where they were seen. */
  private lay({ samples, width, height }: Interleaved, phase: number, channel: number, [left, top]: readonly [number, number], gain: number): void {
    const { finer } = this.lattice
    const { merged, period } = this
    const [dx, dy] = [left * finer, top * finer]
    // Half a pixel is nowhere on a lattice of whole ones.
    if (!Number.isInteger(dx) || !Number.isInteger(dy)) return
    const [px, py] = [phase & 1, phase >> 1]
    const wrapped = (value: number) => ((value % period) + period) % period
    const kind = 3 * (wrapped(py * finer + dy) * period + wrapped(px * finer + dx)) + channel
    const before = this.seen[kind]++
    for (let y = py; y < height; y += 2) {
      const Y = y * finer + dy
      if (Y < 0 || Y >= merged.height) continue
      for (let x = px; x < width; x += 2) {
        const X = x * finer + dx
        if (X < 0 || X >= merged.width) continue
        const to = 3 * (Y * merged.width + X) + channel
        const value = Math.min(65_535, gain * samples[3 * (y * width + x) + channel])
        const here = merged.samples[to]
        // At the border what lies here was not seen before.
        const again = before > 0 && here > 0
        if (again && channel === GREEN) this.disagreement.add(X, Y, value, here)
        merged.samples[to] = (again ? here + (value - here) / (before + 1) : value) + 0.5
      }
    }
  }

  /** Brings a capture to the brightness of the first. */
  private gainOf({ samples }: Interleaved): number {
    let sum = 0
    for (let i = GREEN; i < samples.length; i += 3) sum += samples[i]
    this.green ??= sum
    const gain = sum > 0 ? this.green / sum : 1
    return gain > 1 / MOST_GAIN && gain < MOST_GAIN ? gain : 1
  }

  /** At the border not all captures saw all: what is missing there is what lies a lattice further in. */
  private fillBorder(): void {
    const { samples, width, height } = this.merged
    const most = Math.max(...this.lattice.places.flat().map(Math.abs)) * this.lattice.finer + this.period
    const steps = (by: number) => this.period * Math.ceil(by / this.period)
    const inside = (at: number, size: number) => (at < most ? at + steps(most - at) : at >= size - most ? at - steps(at - (size - most - 1)) : at)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        if (y >= most && y < height - most && x === most) x = width - most
        for (let c = 0; c < 3; c++) {
          const to = 3 * (y * width + x) + c
          if (samples[to] === 0) samples[to] = samples[3 * (inside(y, height) * width + inside(x, width)) + c]
        }
      }
  }
}
