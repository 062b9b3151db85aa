import { EXPAND, Workspace, type Slab } from '../raster/kernels'

/** Pyramids in the kernels' memory: the steps that bands are made of, with the two scratch planes that they need. */
export class Pyramids {
  /** As large as the picture: for one plane at a time, and for rows on their way to one. */
  readonly scratch: Slab
  private readonly rows: Slab

  constructor(
    readonly space: Workspace,
    width: number,
    height: number,
  ) {
    this.scratch = space.plane(width, height)
    this.rows = space.plane(width, height)
  }

  /** `coarse` = `fine`, smoothed and halved (Burt & Adelson, 1983). */
  reduce(fine: Slab, coarse: Slab): void {
    this.run('reduceRows', [fine.at, fine.width, this.rows.at], fine.height)
    this.run('reduceColumns', [this.rows.at, coarse.width, fine.height, coarse.at], coarse.height)
  }

  /** `target` = `fine` − `coarse` brought to its size: a band. */
  band(fine: Slab, coarse: Slab, target: Slab): void {
    this.expand(coarse, fine, fine, target, EXPAND.subtractFrom, 1)
  }

  /** `fine` += `share` × `coarse` brought to its size. */
  addExpanded(coarse: Slab, fine: Slab, share: number): void {
    this.expand(coarse, fine, fine, fine, EXPAND.addShare, share)
  }

  /** `fine` = `coarse` brought to its size. */
  writeExpanded(coarse: Slab, fine: Slab): void {
    this.expand(coarse, fine, fine, fine, EXPAND.write, 1)
  }

  /** Smooths in place, so many times. */
  smooth(plane: Slab, times: number): void {
    for (let k = 0; k < times; k++) {
      this.run('smoothRows', [plane.at, plane.width, this.rows.at], plane.height)
      this.run('smoothColumns', [this.rows.at, plane.width, plane.height, plane.at], plane.height)
    }
  }

  run(...[name, args, rows]: Parameters<Workspace['kernels']['run']>): void {
    this.space.kernels.run(name, args, rows)
  }

  private expand(coarse: Slab, size: Slab, other: Slab, target: Slab, mode: number, share: number): void {
    this.run('expandRows', [coarse.at, coarse.width, this.rows.at, size.width], coarse.height)
    this.run('expandColumns', [this.rows.at, coarse.height, other.at, target.at, size.width, mode, share], size.height)
  }
}
