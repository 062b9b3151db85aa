import { bilinear, createPlane, type Plane } from '../raster'
import type { Slab, Workspace } from '../raster/kernels'
import type { Raising } from './pyramids'
import type { HeldBack } from './style'

/**
 * Holds frames back where a part that moved is shown from another one: their weights become nothing there. Borders are as wide as a
 * band's own places, and as one of the small picture that parts were found in.
 */
export class OneFrame {
  /** What is held back of the frame that is added now, halved and halved again. */
  private held?: Plane[]
  private step = 1

  constructor(
    private readonly space: Workspace,
    /** Width of the picture. */
    private readonly width: number,
    private readonly heldBack: (index: number) => HeldBack | undefined,
  ) {}

  /** Frame `index` is the next. */
  begin(index: number): void {
    const held = this.heldBack(index)
    this.held = held && halvings(held)
    this.step = (held?.width ?? this.width) / this.width
  }

  /** Energies become nothing where the frame is held back. */
  hold(level: number, energies: Slab): void {
    this.each(level, energies, (view, i, share) => (view[i] *= share))
  }

  /** The same for energies that are raised to weights afterwards: so that those become nothing. */
  holdRaised(level: number, energies: Slab, { scale, least, power }: Raising): void {
    this.each(level, energies, (view, i, share) => {
      view[i] = share === 0 ? -least / scale : (share ** (1 / power) * (view[i] * scale + least) - least) / scale
    })
  }

  /** Goes through the places of a level where the frame is held back, with the share that it keeps. */
  private each(level: number, slab: Slab, change: (view: Float32Array, i: number, share: number) => void): void {
    if (!this.held) return
    const view = this.space.view(slab)
    // A place of the level in places of the small picture, and of the halving that is about as fine.
    const scale = 2 ** level * this.step
    const halving = Math.min(this.held.length - 1, Math.max(0, Math.round(Math.log2(scale))))
    const [held, step] = [this.held[halving], scale / 2 ** halving]
    const offset = (step - 1) / 2
    for (let y = 0; y < slab.height; y++) {
      for (let x = 0, i = y * slab.stride; x < slab.width; x++, i++) {
        const back = bilinear(held, x * step + offset, y * step + offset)
        if (back > 1e-4) change(view, i, back > 1 - 1e-4 ? 0 : 1 - back)
      }
    }
  }
}

function halvings({ width, height, data }: HeldBack): Plane[] {
  const planes: Plane[] = [{ width, height, data: Float32Array.from(data) }]
  while (Math.min(planes.at(-1)!.width, planes.at(-1)!.height) > 1) planes.push(halved(planes.at(-1)!))
  return planes
}

/** Means of four places each: smoothing wider, as pyramids do, would hold frames back beside the part. */
function halved({ width, height, data }: Plane): Plane {
  const out = createPlane((width + 1) >> 1, (height + 1) >> 1)
  const at = (x: number, y: number) => data[Math.min(height - 1, y) * width + Math.min(width - 1, x)]
  for (let y = 0, o = 0; y < out.height; y++)
    for (let x = 0; x < out.width; x++, o++)
      out.data[o] = (at(2 * x, 2 * y) + at(2 * x + 1, 2 * y) + at(2 * x, 2 * y + 1) + at(2 * x + 1, 2 * y + 1)) / 4
  return out
}
