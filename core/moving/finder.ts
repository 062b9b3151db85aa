import { commonRectangle, createPlane, layOn, smooth, type Bend, type Plane, type Rectangle, type Similarity } from '../raster'
import { Planes, type Kernels } from '../raster/kernels'
import { CELL_px, cellAt, cellMeans, gridOf } from './cells'
import { chooseFrames } from './choose'
import { Comparer } from './disagreement'
import { apartOf, between, depthOf, detailsOf, sharpestOf } from './looks'
import { noiseCurve } from './noise'
import { outlineOf, type Certainty } from './outline'
import { partsOf, type MovedParts } from './parts'
import type { Moving } from './purposes'

/** Small pictures take so much memory together at the most, however many there are. */
const MOST_BYTES = 96_000_000
const WIDEST_px = 1000

/** How surely parts have to have moved by themselves; where it is asked for, less is enough. */
const CERTAINTIES: Record<Exclude<Moving, 'blend'>, Certainty> = {
  auto: { sure_px: 3, likely_px: 1.5, leastShare: 0.0003, leastOfPart: 0.02 },
  one: { sure_px: 2, likely_px: 1, leastShare: 0.0001, leastOfPart: 0.02 },
}
/** Only where something moved on more of the picture than this between two frames is the series looked at, unless asked for: the look takes time. */
const STIRRED_LEAST = 0.008
/** Frames that have less than this part of the sharpest one's detail at a place hardly count there, wherever it lay. */
const MATTERS = 0.2
/** What stands still in a part, such as a wall behind grass, is shown by all frames of whose detail there less than one part in so many moved, */
const STILL_times = 2.5
/** and this part of the sharpest one's. */
const STILL_least = 0.25

/** What stands still in a part counts so much beside what moved: the part is what moved. */
const RESTS = 0.15

/** How the frames of a series lie on the reference, as registered; `lost` ones do not. */
export interface Lying {
  motions: Similarity[]
  bends?: (Bend | undefined)[]
  gains: number[]
  /** Share of the picture that moved on its own between the frame before and each. */
  stirred: number[]
  lost: number[]
}

/** How wide pictures have to be for a series of so many frames. */
export function lookedAt_px(count: number): number {
  return Math.min(WIDEST_px, Math.floor(Math.sqrt((MOST_BYTES * 1.5) / (2 * Math.max(1, count)))))
}

export interface Moved {
  parts?: MovedParts
  /** Share of the picture that moved on its own between the frame before and each. */
  stirred: number[]
}

/** What comparing all frames told. */
interface Compared {
  /** By how many px each place lies elsewhere between two frames at the most, at half the size. */
  most: Plane
  /** Which part of a frame's detail, 0 … 1, is that of what moved, in each cell. */
  moving: Plane[]
  /** Share of the picture that lies elsewhere than in the frame before; absent where the camera was not pushed between them. */
  shares: (number | undefined)[]
}

interface Seeing extends Pick<Compared, 'moving'> {
  used: number[]
  detail: Plane[]
  apart: (a: number, b: number) => Float32Array
}

/**
 * Finds the parts of a picture that moved by themselves while its frames were taken, and for each the one frame to show it from:
 * where two frames that both have detail disagree by more than blur, light, noise and the parallax of a pushed camera explain.
 */
export class MovingFinder {
  private readonly smalls: { width: number; height: number; data: Uint16Array }[] = []

  /** `frame_px` is the size of the frames. */
  constructor(
    private readonly frame_px: { width: number; height: number },
    private readonly kernels: Kernels,
  ) {}

  /** Takes the next frame's encoded luma, 0 … 1, small, in focus order. */
  add({ width, height, data }: Plane): void {
    const whole = new Uint16Array(data.length)
    // A loop: a call for each value takes several times as long.
    for (let i = 0; i < whole.length; i++) whole[i] = 65535 * Math.min(1, Math.max(0, data[i])) + 0.5
    this.smalls.push({ width, height, data: whole })
  }

  /** The parts that moved, if any did, and how much of the picture moved between neighbours once parallax is told from it. */
  finish(lying: Lying, how: Exclude<Moving, 'blend'>): Moved {
    const used = this.smalls.flatMap((_, k) => (lying.lost.includes(k) ? [] : [k]))
    if (how === 'auto' && !used.some((k) => lying.stirred[k] >= STIRRED_LEAST)) return { stirred: lying.stirred }
    const laid = used.map((k) => this.lay(k, lying))
    const planes = new Planes(this.kernels, laid[0].width, laid[0].height)
    const detail = detailsOf(planes, laid)
    const comparer = new Comparer(planes)
    const compared = this.compareAll(comparer, laid, detail, this.insideOf(lying))
    const stirred = [...lying.stirred]
    // Where the camera was pushed aside what registration took for motion was parallax, as far as it goes with the depth.
    used.forEach((k, n) => (stirred[k] = Math.min(stirred[k], compared.shares[n] ?? Infinity)))
    const marks = outlineOf(compared.most, CERTAINTIES[how])
    if (!marks.includes(1)) return { stirred }
    return { stirred, parts: this.partsIn(marks, { used, detail, moving: compared.moving, apart: apartOf(comparer, laid) }) }
  }

  /** Compares all frames with those beside them. */
  private compareAll(comparer: Comparer, laid: Plane[], detail: Plane[], inside: (x: number, y: number) => boolean): Compared {
    const noise = noiseCurve([laid[0], laid[laid.length >> 1], laid.at(-1)!])
    const [{ width: wholeWidth, height: wholeHeight }] = laid
    const most = createPlane((wholeWidth + 1) >> 1, (wholeHeight + 1) >> 1)
    const { width, height } = most
    const depth = depthOf(detail, wholeWidth, wholeHeight)
    const grid = gridOf(most)
    const sharpest = sharpestOf(detail)
    const moving = detail.map(() => createPlane(grid.across, grid.down))
    const shares: (number | undefined)[] = [undefined]
    for (let [a, b] = [0, 1]; b < laid.length; a++, b++) {
      const fromMidway = { ...depth, data: depth.data.map((at) => at - (a + 0.5)) }
      const { displaced, fine, pushed } = between(comparer, laid[a], laid[b], noise, fromMidway, inside)
      const [one, other] = [detail[a].data, detail[b].data]
      const left = smooth(cellMeans(fine)).data
      // The blur that leaves least takes the sharper frame's detail away: what is left of what moved is that of the softer one.
      const share = left.map((energy, cell) => Math.min(1, energy / (Math.min(one[cell], other[cell]) + 1e-12)))
      for (const n of [a, b]) share.forEach((part, cell) => (moving[n].data[cell] = Math.max(moving[n].data[cell], part)))
      let [seen, elsewhere] = [0, 0]
      for (let y = 0, i = 0; y < height; y++)
        for (let x = 0; x < width; x++, i++) {
          if (!inside(2 * x, 2 * y)) continue
          const cell = cellAt(grid, x, y)
          const counts = Math.min(1, Math.min(one[cell], other[cell]) / (MATTERS * sharpest[cell] + 1e-12))
          most.data[i] = Math.max(most.data[i], counts * displaced.data[i])
          seen++
          elsewhere += Number(counts * displaced.data[i] > CERTAINTIES.auto.sure_px)
        }
      shares.push(pushed ? elsewhere / Math.max(1, seen) : undefined)
    }
    return { most, moving, shares }
  }

  /** The frame that shows each marked place, and what others may show beside it. */
  private partsIn(marks: Uint8Array, { used, detail, moving, apart }: Seeing): MovedParts {
    const [width, height] = [this.mapWidth, marks.length / this.mapWidth]
    const grid = gridOf({ width, height })
    const sharpest = sharpestOf(detail)
    const standing = detail.map(({ data }, n) => data.map((energy, cell) => energy * (1 - STILL_times * moving[n].data[cell])))
    const stands = Float32Array.from(sharpest, (_, cell) => standing.reduce((high, energies) => Math.max(high, energies[cell]), 0))
    // What a frame shows if a part is its own: of what moved its own detail, and of the rest its own or what others may show beside it.
    const own = detail.map((plane, n) => ({
      ...plane,
      data: plane.data.map((energy, cell) => energy * moving[n].data[cell] + RESTS * Math.max(energy, stands[cell])),
    }))
    const moved = Uint8Array.from(cellMeans({ width, height, data: Float32Array.from(marks) }).data, (share) => Number(share > 0.3))
    const cells = chooseFrames({ ...grid, moved, detail: own, apart })
    const still: (Uint8Array | undefined)[] = []
    used.forEach((k, n) => (still[k] = Uint8Array.from(sharpest, (most, cell) => Number(standing[n][cell] > STILL_least * most))))
    const owner = Int16Array.from(marks, (is, i) => {
      const chosen = is ? cells[cellAt(grid, i % width, Math.floor(i / width))] : -1
      return chosen < 0 ? -1 : used[chosen]
    })
    return partsOf({ width, height, owner, still }, this.frame_px, { used, grid, detail: own })
  }

  private get mapWidth(): number {
    return (this.smalls[0].width + 1) >> 1
  }

  /** A frame's small picture as the reference frame sees it, brought to its light. */
  private lay(k: number, { motions, bends, gains }: Lying): Plane {
    const { width, height, data } = this.smalls[k]
    const scale = gains[k] / 65535
    const small = { width, height, data: new Float32Array(data.length) }
    for (let i = 0; i < data.length; i++) small.data[i] = data[i] * scale
    const step = this.frame_px.width / width
    return layOn(small, this.frame_px, motions[k], bends?.[k], { x: (step - 1) / 2, y: (step - 1) / 2, step, width, height })
  }

  /** What all frames show, a little less. */
  private insideOf({ motions, lost }: Lying): (x: number, y: number) => boolean {
    const { width, height } = this.frame_px
    const all = commonRectangle(
      motions.filter((_, k) => !lost.includes(k)),
      width,
      height,
    )
    const [small] = this.smalls
    const scale = small.width / width
    const around = 2 * CELL_px + 2
    const box: Rectangle = {
      x: all.x * scale + around,
      y: all.y * scale + around,
      width: all.width * scale - 2 * around,
      height: all.height * scale - 2 * around,
    }
    return (x, y) => x >= box.x && y >= box.y && x < box.x + box.width && y < box.y + box.height
  }
}
