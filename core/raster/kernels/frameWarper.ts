import { bendNet, bendWithin, type Bend } from '../bend'
import type { Rectangle } from '../plane'
import { apply, type Similarity } from '../similarity'
import { motionWithin, readingFor, SHARPNESS, wholeTaps } from '../warp'
import type { Kernels } from './kernels'
import { GROUP, NET_ROWS, WHOLE } from './twin/samples'
import { Workspace, type Slab } from './workspace'

/** How a frame lies on the reference: its motion, how it is bent beside that, and the factor on its light. */
export interface Laying {
  motion: Similarity
  bend?: Bend
  gain: number
}

/** A frame's interleaved RGB samples, 8 or 16 bits. */
export type FrameSamples = Uint8Array | Uint16Array

/** Brings frames of one size into the reference frame, with one cubic interpolation; beyond a frame its edge is repeated. */
export class FrameWarper {
  private readonly taps: number
  private bends?: number

  constructor(
    private readonly space: Workspace,
    private readonly width: number,
    private readonly height: number,
  ) {
    const weights = wholeTaps()
    this.taps = space.bytes(weights.byteLength)
    new Int16Array(space.kernels.buffer(), this.taps, weights.length).set(weights)
  }

  /** Puts a frame's samples at `scratch` in the memory, which needs room for them and 64 bytes more; says whether they are of 16 bits. */
  put(samples: FrameSamples, scratch: number): boolean {
    const wide = samples instanceof Uint16Array
    const there = wide ? Uint16Array : Uint8Array
    new there(this.space.kernels.buffer(), scratch, samples.length).set(samples)
    return wide
  }

  /** Writes the three channels of the samples at `scratch`, of 16 bits or 8, into planes of 16 bits. */
  warp(wide: boolean, { motion, bend, gain }: Laying, scratch: number, planes: readonly [Slab, Slab, Slab]): void {
    const { width, height } = this
    const { kernels } = this.space
    const [red, green, blue] = planes
    const { startU, acrossU, downU, startV, acrossV, downV } = readingFor(motion, width, height)
    const reading = [startU, acrossU, downU, startV, acrossV, downV]
    const scale = (gain * (wide ? 1 : 65535 / 255)) / WHOLE
    const bends = bend ? this.place(bendNet(bend, motion, width, height)) : 0
    const args = [scratch, Number(wide), red.at, green.at, blue.at, red.stride, width, height, ...reading, scale, SHARPNESS, this.taps, bends]
    kernels.run('warpSamples', args, height)
  }

  private place(net: Float32Array): number {
    this.bends ??= this.space.bytes(net.byteLength)
    new Float32Array(this.space.kernels.buffer(), this.bends, net.length).set(net)
    return this.bends
  }
}

/** Around a part so much more of the frame is read, in px: what the interpolation reaches, and what a bend may add. */
const MARGIN_px = 16

/**
 * A rectangle of a frame brought into the reference frame, as interleaved 16-bit RGB: the same as of the whole frame, without
 * warping that. `part` is of the reference; `width` × `height` is the frame's size. `samples` are those of the whole frame, or of what of it
 * is `held`: no less than {@link heldFor} says. Put `into` an array where there is one.
 */
export function warpPart(
  kernels: Kernels,
  samples: FrameSamples,
  { width, height }: { width: number; height: number },
  laying: Laying,
  part: Rectangle,
  held: Rectangle = { x: 0, y: 0, width, height },
  into?: Uint16Array,
): Uint16Array {
  // Where the kernel would begin a group of columns and a row of the bend's net in the whole frame, it does so here.
  const [x, y] = [GROUP * Math.floor((part.x - MARGIN_px) / GROUP), NET_ROWS * Math.floor((part.y - MARGIN_px) / NET_ROWS)]
  // Rows of whole groups are copied into the memory by words.
  const across = GROUP * Math.ceil((part.x + part.width + MARGIN_px - x) / GROUP)
  const wider = { x, y, width: across, height: part.y + part.height + MARGIN_px - y }
  const { area, motion } = motionWithin(laying.motion, wider, width, height, GROUP)
  const space = new Workspace(kernels, wider.width)
  const warper = new FrameWarper(space, wider.width, wider.height)
  const scratch = space.bytes(wider.width * wider.height * 6 + 64)
  const planes = [0, 1, 2].map(() => space.plane(wider.width, wider.height, 2)) as [Slab, Slab, Slab]
  const wide = samples instanceof Uint16Array
  const there = wide ? Uint16Array : Uint8Array
  cutOut(samples, held, area, new there(kernels.buffer(), scratch, 3 * area.width * area.height))
  warper.warp(wide, { ...laying, motion, bend: laying.bend && bendWithin(laying.bend, wider) }, scratch, planes)
  // The samples have been read: the part goes where they were.
  const [left, top] = [part.x - wider.x, part.y - wider.y]
  const args = [...planes.map(({ at }) => at), planes[0].stride, left, top, part.width, scratch]
  kernels.run('interleave', args, part.height)
  const there16 = new Uint16Array(kernels.buffer(), scratch, 3 * part.width * part.height)
  if (!into) return there16.slice()
  into.set(there16)
  return into
}

/** What of a frame has to be held for every part within a rectangle of the reference. */
export function heldFor(motion: Similarity, { x, y, width, height }: Rectangle, frame: { width: number; height: number }): Rectangle {
  const [midX, midY] = [(frame.width - 1) / 2, (frame.height - 1) / 2]
  const corners = [x, x + width].flatMap((u) => [y, y + height].map((v) => apply(motion, u - midX, v - midY)))
  const [us, vs] = [corners.map(([u]) => u + midX), corners.map(([, v]) => v + midY)]
  // What is read around a part, and the steps in which its place goes.
  const around = MARGIN_px + 2 * Math.max(GROUP, NET_ROWS)
  const [left, top] = [Math.floor(Math.min(...us)) - around, Math.floor(Math.min(...vs)) - around]
  return { x: left, y: top, width: Math.ceil(Math.max(...us)) + around - left, height: Math.ceil(Math.max(...vs)) + around - top }
}

/** Copies a rectangle of a frame out of what is held of it; beyond that its edge is repeated. */
function cutOut(samples: FrameSamples, held: Rectangle, area: Rectangle, out: FrameSamples): void {
  const left = area.x - held.x
  const whole = left >= 0 && left + area.width <= held.width
  for (let y = 0, o = 0; y < area.height; y++) {
    const row = Math.min(held.height - 1, Math.max(0, area.y - held.y + y)) * held.width
    if (whole) {
      out.set(samples.subarray(3 * (row + left), 3 * (row + left + area.width)), o)
      o += 3 * area.width
      continue
    }
    for (let x = 0; x < area.width; x++, o += 3) {
      const from = 3 * (row + Math.min(held.width - 1, Math.max(0, left + x)))
      out[o] = samples[from]
      out[o + 1] = samples[from + 1]
      out[o + 2] = samples[from + 2]
    }
  }
}
